using System.Globalization;
using System.Text;
using Dapper;
using Nachlass.Core.Bench;
using Nachlass.Core.Bench.Versions;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Exchange.Pieces;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Choosing;
using Nachlass.Store.Papers;
using Nachlass.Store.Sift;
using Nachlass.Store.Text;

namespace Nachlass.Bench;

/// <summary>Saving a draft as changes, what versions cost, comparing two of them, and writing each file.</summary>
internal static class Writing
{
    public const string Command = "writing";

    private const int Long = 50_000,
        Versions = 20;

    /// <summary>The tables, as Markdown.</summary>
    public static string Measure()
    {
        var folder = Directory.CreateTempSubdirectory("nachlass-bench-").FullName;
        try
        {
            return In(folder);
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    private static string In(string folder)
    {
        using var papers = PapersFile.Open(folder, TimeProvider.System);
        using var nearby = new Nearby(papers);
        using var columns = new SlipColumns(papers);
        using var worth = new WorthStore(papers, columns, nearby);
        using var learning = new TopicLearning(papers, nearby);
        var history = new HistoryStore(papers);
        var pieces = new PieceStore(papers, history, new AdviceStore(papers, nearby, learning, new FindStore(papers, nearby)), worth);
        var drafts = new DraftStore(papers, history);
        var versions = new VersionStore(papers);
        var words = new Zipf(20_000, new Random(1));
        var table = new StringBuilder()
            .AppendLine()
            .AppendLine("## Writing")
            .AppendLine()
            .AppendLine("| what | median | p95 | reference | its median | ratio |")
            .AppendLine("| --- | ---: | ---: | --- | ---: | ---: |");

        foreach (var size in (int[])[1_000, 10_000, Long])
        {
            var piece = pieces.Start(new NewPiece($"A draft of {size:N0} words"), Once.Unkeyed).Answer.Number;
            var now = drafts.Save(piece, Draft(words, size), drafts.Get(piece).Version, Once.Unkeyed).Answer;
            var (version, text) = (now.Version, now.Text);
            var at = text.IndexOf(". ", text.Length / 2, StringComparison.Ordinal) + 2;
            Line(
                $"a word written in {size:N0} words, as a change",
                Outlining.Timed(
                    15,
                    () =>
                    {
                        text = text.Insert(at, "word ");
                        version = drafts
                            .Change(
                                piece,
                                new DraftChange(version, [new TextChange(at, at, "word ")], TextChanges.Hash(text)),
                                Once.Unkeyed
                            )
                            .Answer.Version;
                    }
                ),
                "the same, sent whole",
                Outlining.Timed(
                    15,
                    () => version = drafts.Save(piece, text = text.Insert(at, "word "), version, Once.Unkeyed).Answer.Version
                )
            );
            if (size < Long)
                continue;
            long Kept() =>
                papers.Read(db =>
                    db.ExecuteScalar<long>(
                        "SELECT (SELECT total(length(text)) FROM version_unit) + (SELECT total(length(units)) FROM piece_version)"
                    )
                );
            var random = new Random(7);
            versions.Keep(piece, new VersionName("first"), Once.Unkeyed);
            var first = Kept();
            for (var i = 0; i < Versions; i++)
            {
                text = Rewritten(text, words, random, 10);
                version = drafts.Save(piece, text, version, Once.Unkeyed).Answer.Version;
                versions.Keep(piece, new VersionName($"version {i}"), Once.Unkeyed);
            }
            var each = (Kept() - first) / (double)Versions;
            var old = Rewritten(text, words, random, 40);
            Line(
                $"two versions of {size:N0} words compared, 40 paragraphs rewritten",
                Outlining.Timed(7, () => Comparison.Of(old, text)),
                "the same two, by lines only",
                Outlining.Timed(7, () => Merging.Of(null, old, text))
            );
            table
                .AppendLine()
                .AppendLine(
                    CultureInfo.InvariantCulture,
                    $"A version of {size:N0} words with ten new paragraphs takes {each / 1024:0.0} KB, {each / text.Length:P1} of its text."
                );
            table.AppendLine().AppendLine("| file of 50,000 words | median | p95 | bytes |").AppendLine("| --- | ---: | ---: | ---: |");
            var finished = Finished.Markdown("A long one", ReadyFormats.All[0], text, _ => null);
            File("text", () => Encoding.UTF8.GetBytes(PlainFile.Text(finished)));
            File("HTML", () => Encoding.UTF8.GetBytes(PieceFile.Html("A long one", finished, "en", _ => null)));
            File("DOCX", () => DocxFile.Write("A long one", finished, "en", _ => null));
            File("EPUB", () => EpubFile.Write(new Book("A long one", "en", default, [new BookPart("A long one", finished, _ => null)])));
            File("Fountain", () => Encoding.UTF8.GetBytes(PlainFile.Fountain("A long one", finished)));
            File("SRT", () => Encoding.UTF8.GetBytes(Exchange.Formats.Transcripts.SubRip(PlainFile.Spoken(finished, ReadingPace.Aloud))));
        }
        return table.ToString();

        void Line(string what, (double Median, double P95) time, string reference, (double Median, double P95) its) =>
            table.AppendLine(
                CultureInfo.InvariantCulture,
                $"| {what} | {time.Median:0.0} ms | {time.P95:0.0} ms | {reference} | {its.Median:0.0} ms | "
                    + $"×{time.Median / its.Median:0.0} |"
            );

        void File(string what, Func<byte[]> write)
        {
            var bytes = 0;
            var (median, p95) = Outlining.Timed(5, () => bytes = write().Length);
            table.AppendLine(CultureInfo.InvariantCulture, $"| {what} | {median:0} ms | {p95:0} ms | {bytes:N0} |");
        }
    }

    /// <summary>Sections of twelve paragraphs of about a hundred words.</summary>
    private static string Draft(Zipf words, int size)
    {
        var text = new StringBuilder();
        for (var (count, at) = (0, 0); count < size; at++)
        {
            if (at % 12 == 0)
                text.Append(CultureInfo.InvariantCulture, $"## Section {at / 12 + 1}\n\n");
            var paragraph = Paragraph(words);
            count += paragraph.Count(c => c == ' ') + 1;
            text.Append(paragraph).Append("\n\n");
        }
        return text.ToString();
    }

    private static string Paragraph(Zipf words) => string.Join(' ', Enumerable.Range(0, 3).Select(_ => words.Text() + "."));

    /// <summary>The text with some words of some paragraphs written anew.</summary>
    private static string Rewritten(string text, Zipf words, Random random, int paragraphs)
    {
        var all = text.Split("\n\n");
        for (var i = 0; i < paragraphs; i++)
        {
            var at = random.Next(all.Length);
            if (!all[at].StartsWith('#') && all[at].Length > 40)
                all[at] = all[at][..(all[at].Length / 2)] + " " + words.Text() + ".";
        }
        return string.Join("\n\n", all);
    }
}
