using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Sources;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Sources;

/// <summary>A line of a transcript as it is shown.</summary>
/// <param name="Position">Its place, from 1.</param>
/// <param name="Clock">Where it begins, as it is cited.</param>
/// <param name="Passage">The passage that was taken from it.</param>
public sealed record ShownLine(int Position, int From, int To, string Clock, string Speaker, string Text, SlipNumber? Passage);

/// <summary>What was said in a source, line by line.</summary>
public sealed class TranscriptStore(PapersFile papers)
{
    /// <summary>The lines in order, each with the passage that covers it.</summary>
    public IReadOnlyList<ShownLine> Lines(SourceNumber source) =>
        papers.Read<IReadOnlyList<ShownLine>>(db =>
        {
            SourceRows.Get(db, source);
            var passages = db.Query<(int Number, string Locator)>(
                    "SELECT number, locator FROM slip WHERE source = @source AND locator <> '' AND state <> 'dropped' ORDER BY number",
                    new { source }
                )
                .Select(p => (p.Number, Locator: Locator.Read(p.Locator)))
                .Where(p => p.Locator.Kind == LocatorKind.Time)
                .ToList();
            return
            [
                .. Rows(db, source)
                    .Select(
                        (line, i) =>
                        {
                            var at = passages.Find(p =>
                                line.From / 1000 >= p.Locator.From && line.From / 1000 < (p.Locator.To ?? p.Locator.From + 1)
                            );
                            return new ShownLine(
                                i + 1,
                                line.From,
                                line.To,
                                Transcript.Clock(line.From),
                                line.Speaker,
                                line.Text,
                                at.Number > 0 ? SlipNumber.Of(at.Number) : null
                            );
                        }
                    ),
            ];
        });

    /// <summary>Puts a transcript in place of the one the source has; no lines take it away.</summary>
    /// <returns>How many lines it has.</returns>
    public Done<int> Write(SourceNumber source, IEnumerable<TranscriptLine> lines, Once once)
    {
        var sorted = Transcript.InOrder(lines);
        return papers.Run(
            sorted.Count == 0 ? $"took away the transcript of source {source}" : $"put a transcript to source {source}",
            once,
            change =>
            {
                SourceRows.Get(change.Db, source);
                change.Db.Execute("DELETE FROM transcript_line WHERE source = @source", new { source });
                Put(change.Db, source, sorted);
                return sorted.Count;
            }
        );
    }

    /// <summary>Keeps neighbouring lines as a passage with their time range.</summary>
    /// <param name="first">Place of the first line, from 1.</param>
    /// <param name="last">Place of the last line.</param>
    public Done<Slip> KeepPassage(SourceNumber source, int first, int last, Once once) =>
        papers.Run(
            $"kept a passage of the transcript of source {source}",
            once,
            change =>
            {
                var lines = Rows(change.Db, source);
                if (first < 1 || last < first || last > lines.Count)
                    throw new BadInputException(
                        "first",
                        $"The transcript has lines 1 to {lines.Count}; {first} to {last} are not among them."
                    );
                var (text, locator) = Transcript.Passage(lines[(first - 1)..last]);
                return SlipRows.Add(
                    change,
                    new NewSlip($"“{text}”")
                    {
                        Kind = SlipKind.Quote,
                        State = SlipState.Kept,
                        Origin = Origin.Reading,
                        Source = source,
                        Locator = locator,
                        Topics = [.. SourceRows.Get(change.Db, source).Topics.Select(t => t.Number)],
                    }
                );
            }
        );

    internal static void Put(SqliteConnection db, SourceNumber source, IReadOnlyList<TranscriptLine> lines)
    {
        for (var i = 0; i < lines.Count; i++)
            db.Execute(
                "INSERT INTO transcript_line (source, position, from_ms, to_ms, speaker, text) "
                    + "VALUES (@source, @i, @From, @To, @Speaker, @Text)",
                new
                {
                    source,
                    i,
                    lines[i].From,
                    lines[i].To,
                    lines[i].Speaker,
                    lines[i].Text,
                }
            );
    }

    internal static List<TranscriptLine> Rows(SqliteConnection db, SourceNumber source) =>
        db.Query<(int From, int To, string Text, string Speaker)>(
                "SELECT from_ms, to_ms, text, speaker FROM transcript_line WHERE source = @source ORDER BY position",
                new { source }
            )
            .Select(r => new TranscriptLine(r.From, r.To, r.Text, r.Speaker))
            .ToList();

    internal static IReadOnlyList<(SourceNumber Source, IReadOnlyList<TranscriptLine> Lines)> All(SqliteConnection db) =>
        [
            .. db.Query<int>("SELECT DISTINCT source FROM transcript_line ORDER BY source")
                .ToList()
                .Select(n => (SourceNumber.Of(n), (IReadOnlyList<TranscriptLine>)Rows(db, SourceNumber.Of(n)))),
        ];
}
