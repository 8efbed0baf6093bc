using System.Globalization;
using System.Text;

namespace Nachlass.Core.Papers;

/// <summary>Something that was done on a day.</summary>
/// <param name="What">In words, without the thing's own.</param>
/// <param name="Title">The thing's own words, for lists.</param>
public sealed record WorkLine(string What, string Title, Reference? Thing);

/// <summary>What was written on a day: by how many words a piece or the sheet became longer.</summary>
/// <param name="Words">May be less than nothing, where more was taken out than written.</param>
public sealed record WordsWritten(string Title, Reference Thing, int Words);

/// <summary>A day of work.</summary>
/// <param name="Caught">Slips that were caught.</param>
/// <param name="Decided">Decisions about slips that stand.</param>
/// <param name="Written">Words by piece, and on the sheet.</param>
/// <param name="Moved">Moves that were done, and pieces that came a stage on.</param>
/// <param name="Sent">Pieces that went out.</param>
public sealed record WorkDay(
    DateOnly Day,
    IReadOnlyList<WorkLine> Caught,
    IReadOnlyList<WorkLine> Decided,
    IReadOnlyList<WordsWritten> Written,
    IReadOnlyList<WorkLine> Moved,
    IReadOnlyList<WorkLine> Sent
)
{
    public bool IsEmpty => Caught.Count + Decided.Count + Written.Count + Moved.Count + Sent.Count == 0;

    /// <summary>Words of the day, pieces and sheet together.</summary>
    public int Words => Written.Sum(w => w.Words);
}

/// <summary>What was done, day by day.</summary>
public sealed record WorkLog(DateOnly From, DateOnly To, IReadOnlyList<WorkDay> Days)
{
    /// <summary>As plain text, to be put into a letter or a sheet of hours.</summary>
    public string Text
    {
        get
        {
            var text = new StringBuilder();
            foreach (var day in Days.Where(d => !d.IsEmpty))
            {
                text.Append(CultureInfo.InvariantCulture, $"{day.Day.ToString("dddd d MMMM yyyy", CultureInfo.InvariantCulture)}\n");
                Part("caught", day.Caught);
                Part("decided", day.Decided);
                if (day.Written.Count > 0)
                    text.Append(CultureInfo.InvariantCulture, $"  written: {Counted(day.Words)}\n");
                foreach (var written in day.Written)
                    text.Append(CultureInfo.InvariantCulture, $"    {written.Title}: {Counted(written.Words)}\n");
                Part("moved", day.Moved);
                Part("sent", day.Sent);
                text.Append('\n');
            }
            return text.Length == 0 ? "Nothing was written down in these days.\n" : text.ToString().TrimEnd('\n') + "\n";

            void Part(string name, IReadOnlyList<WorkLine> lines)
            {
                if (lines.Count == 0)
                    return;
                text.Append(CultureInfo.InvariantCulture, $"  {name}: {lines.Count}\n");
                foreach (var line in lines)
                    text.Append("    ").AppendJoin(": ", new[] { line.What, line.Title }.Where(said => said.Length > 0)).Append('\n');
            }
        }
    }

    private static string Counted(int words) => $"{words:+#,0;−#,0;0} {(Math.Abs(words) == 1 ? "word" : "words")}";
}
