using Dapper;
using Nachlass.Core.Bench;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Sources;
using Nachlass.Store.Bench;
using Nachlass.Store.Papers;
using Nachlass.Store.Sources;
using Nachlass.Store.Topics;

namespace Nachlass.Store.Capture;

/// <summary>Something to be caught, as typed.</summary>
/// <param name="Text">The text.</param>
/// <param name="Overruling">What the writer says of it instead of its reading.</param>
/// <param name="Origin">By which door it comes.</param>
/// <param name="OriginNote">What the door was, where that says more.</param>
/// <param name="Beside">The piece beside which it is laid at once, as a slip or as a move of it.</param>
/// <param name="At">When it was caught, for what had to wait on its way; now when null, and never later than now.</param>
public sealed record ToCatch(
    string Text,
    Overruling? Overruling = null,
    Origin Origin = Origin.Strip,
    string? OriginNote = null,
    DateTimeOffset? At = null,
    PieceNumber? Beside = null
)
{
    public const int LongestNote = 200;
}

/// <summary>What a caught line became.</summary>
public sealed record Caught(Slip? Slip, Source? Source, Move? Move);

/// <summary>Takes in what is caught.</summary>
public sealed class CaptureStore(PapersFile papers)
{
    public const int MostAtOnce = 1_000;

    /// <summary>Catches one or several lines in one command.</summary>
    /// <exception cref="BadInputException">A text is empty or too long, or there are too many.</exception>
    public Done<IReadOnlyList<Caught>> Catch(IReadOnlyList<ToCatch> lines, Once once)
    {
        if (lines.Count is 0 or > MostAtOnce)
            throw new BadInputException("lines", $"Between 1 and {MostAtOnce} lines can be caught at once.");
        foreach (var line in lines)
        {
            if (line is null)
                throw new BadInputException("lines", "One of the lines is empty; each has a text.");
            Check.Text("text", line.Text, Slip.LongestText);
            Check.Length("originNote", line.OriginNote, ToCatch.LongestNote);
        }
        return papers.Run<IReadOnlyList<Caught>>(
            "caught",
            once,
            change =>
            {
                List<Caught> caught = [.. lines.Select(line => One(change, line, []))];
                change.OnPiece = lines.Select(line => line.Beside).FirstOrDefault(piece => piece is not null);
                change.What =
                    "caught " + string.Join(", ", caught.Take(3).Select(Name)) + (caught.Count > 3 ? $" and {caught.Count - 3} more" : "");
                return caught;
            }
        );
    }

    /// <summary>Catches one text as a slip, whatever else it might be.</summary>
    /// <param name="text">Its text.</param>
    /// <param name="kind">Its kind; as the text reads when null.</param>
    /// <param name="once">The request it answers.</param>
    /// <param name="topics">Names of topics it has beside those in the text.</param>
    /// <param name="format">Key of the format it would become.</param>
    public Done<Slip> CatchSlip(string? text, SlipKind? kind, Once once, IReadOnlyList<string>? topics = null, string? format = null)
    {
        Check.Text("text", text, Slip.LongestText);
        var becoming = format is null ? null : papers.Read(db => Bench.FormatRows.Named(db, format));
        return papers.Run(
            "caught a slip",
            once,
            change =>
            {
                var slip = One(change, new ToCatch(text!, new Overruling(Move: false, kind)), topics ?? [], becoming?.Key).Slip!;
                change.What = $"caught slip {slip.Number}";
                return slip;
            }
        );
    }

    private static string Name(Caught caught) => caught.Slip is { } slip ? $"slip {slip.Number}" : $"move “{caught.Move!.Text}”";

    private static Caught One(Change change, ToCatch line, IReadOnlyList<string> alsoOn, string? format = null)
    {
        var reading = CaptureLine.Read(line.Text, change.Today, line.Overruling);
        if (reading.Becomes == Becomes.Move)
            return new Caught(
                null,
                null,
                MoveRows.Add(change, Check.Text("text", reading.Text, Move.LongestText), reading.Date, line.Beside, change.Today)
            );
        var topics = reading.Topics.Concat(alsoOn).Select(name => TopicRows.NumberFor(change.Db, name)).Distinct().ToList();
        var source = reading.Becomes == Becomes.Source ? SourceRows.ForAddress(change, reading.Address!, reading.Text, topics) : null;
        var slip = SlipRows.Add(
            change,
            new NewSlip(reading.Text)
            {
                Kind = reading.Kind,
                Origin = line.Origin,
                OriginNote = line.OriginNote ?? "",
                Source = source?.Number,
                Topics = topics,
                Formats = format is null ? [] : [format],
                CaughtAt = line.At is { } at && at < change.Now ? Mapping.ToMillisecond(at) : change.Now,
            }
        );
        if (line.Beside is { } piece)
        {
            MoveRows.CheckPiece(change.Db, piece);
            MaterialRows.Add(change, piece, Reference.To(slip.Number), null);
            MaterialRows.Settle(change, slip.Number);
            slip = SlipRows.Find(change.Db, slip.Number)!;
        }
        return new Caught(slip, source, null);
    }
}
