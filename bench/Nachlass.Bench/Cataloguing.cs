using System.Globalization;
using System.Text;
using Dapper;
using Nachlass.Core.Bench;
using Nachlass.Core.Catalogue;
using Nachlass.Core.Papers;
using Nachlass.Store.Catalogue;
using Nachlass.Store.Papers;
using Nachlass.Store.Text;

namespace Nachlass.Bench;

/// <summary>How long it takes to open the catalogue and to ask it whether something was mentioned.</summary>
internal static class Cataloguing
{
    public const string Command = "catalogue";

    private const int Releases = 5_000,
        Paragraphs = 12;

    /// <summary>The table, as Markdown.</summary>
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
        var words = new Zipf(20_000, new Random(1));
        Fill(papers, words);
        using var nearby = new Nearby(papers);
        nearby.Fill();
        var catalogue = new CatalogueStore(papers, nearby);
        var asked = Enumerable.Range(0, 40).Select(_ => $"{words.Rare()} {words.Rare()} {words.Rare()}").ToList();
        var common = Enumerable.Range(0, 10).Select(i => $"{words.At(20 + i)} {words.At(60 + i)}").ToList();
        var turn = 0;
        var table = new StringBuilder()
            .AppendLine()
            .AppendLine(CultureInfo.InvariantCulture, $"## The catalogue, {Releases:N0} releases")
            .AppendLine()
            .AppendLine("| what | median | p95 | reference | its median | ratio |")
            .AppendLine("| --- | ---: | ---: | --- | ---: | ---: |");
        var listed = Outlining.Timed(
            9,
            () => papers.Read(db => db.Query<(int, string, string)>("SELECT number, title, out_on FROM release").Count())
        );
        Line(
            "the catalogue opened, with every outlet’s sign",
            Outlining.Timed(9, () => catalogue.Get()),
            "numbers, titles and days, listed",
            listed
        );
        var scanned = Outlining.Timed(
            9,
            () =>
            {
                var sought = asked[turn++ % asked.Count].Split(' ');
                papers.Read(db =>
                    db.Query<string>("SELECT text FROM release")
                        .Count(t => Array.TrueForAll(sought, w => t.Contains(w, StringComparison.Ordinal)))
                );
            }
        );
        Line(
            "did I mention three words of the middle ranks",
            Outlining.Timed(40, () => catalogue.Mentions(asked[turn++ % asked.Count])),
            "every text, scanned",
            scanned
        );
        Line(
            "did I mention two very common words",
            Outlining.Timed(20, () => catalogue.Mentions(common[turn++ % common.Count])),
            "every text, scanned",
            scanned
        );
        return table.ToString();

        void Line(string what, (double Median, double P95) time, string reference, (double Median, double P95) of) =>
            table.AppendLine(
                CultureInfo.InvariantCulture,
                $"| {what} | {time.Median:0.0} ms | {time.P95:0.0} ms | {reference} | {of.Median:0.0} ms | "
                    + $"×{time.Median / of.Median:0.00} |"
            );
    }

    private static void Fill(PapersFile papers, Zipf words)
    {
        var pieces = new List<PieceImage>();
        var releases = new List<Release>();
        var first = papers.Today.AddDays(-Releases);
        for (var i = 1; i <= Releases; i++)
        {
            var text = string.Join("\n\n", Enumerable.Range(0, Paragraphs).Select(_ => Sentence(words) + " " + Sentence(words)));
            var number = PieceNumber.Of(i);
            var title = $"Letter {i}: {words.Word()}";
            pieces.Add(
                new PieceImage(
                    new Piece
                    {
                        Number = number,
                        Title = title,
                        Format = "letter",
                        Stage = "Out",
                        OutOn = first.AddDays(i),
                    },
                    text,
                    [],
                    []
                )
            );
            releases.Add(
                new Release
                {
                    Number = ReleaseNumber.Of(i),
                    Piece = number,
                    OutOn = first.AddDays(i),
                    Title = title,
                    Text = text,
                    Hash = "",
                }
            );
        }
        new ImageStore(papers, new FileShelf(papers), (_, _) => throw new NotSupportedException()).Put(
            new PapersImage { Pieces = pieces, Releases = releases },
            Once.Unkeyed
        );
    }

    private static string Sentence(Zipf words)
    {
        var sentence = words.Text();
        return char.ToUpperInvariant(sentence[0]) + sentence[1..] + ".";
    }
}
