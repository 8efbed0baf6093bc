using System.Globalization;
using System.Text;
using Microsoft.Extensions.Configuration;
using Nachlass.Store.Ideas;
using Nachlass.Store.Text;
using Nachlass.Web.Hosting;

namespace Nachlass.Bench;

/// <summary>How often <i>said already</i> is right: ideas in a writer's words, of which it is known whether one of the demo's releases
/// says them, and which. The labels were written from the releases, before any of them was measured.</summary>
internal static class SaidAlready
{
    public const string Command = "said";

    /// <summary>The folder of the demo papers, beside the benches.</summary>
    public static string DemoPapers => Path.Combine(Path.GetDirectoryName(Pairs.Here())!, "..", "..", "demo");

    /// <summary>The table, as Markdown.</summary>
    /// <param name="demo">The folder of the demo papers.</param>
    public static string Measure(string demo)
    {
        var folder = Directory.CreateTempSubdirectory("nachlass-bench-").FullName;
        try
        {
            var settings = Settings.From(
                new ConfigurationBuilder()
                    .AddInMemoryCollection([new("data", folder), new("demo", Path.GetFullPath(demo)), new("url", "http://127.0.0.1:0")])
                    .Build()
            );
            using var papers = Demo.Open(settings, TimeProvider.System);
            using var nearby = new Nearby(papers);
            nearby.Fill();
            var find = new FindStore(papers, nearby);
            var ideas = File.ReadLines(Path.Combine(Path.GetDirectoryName(Pairs.Here())!, "said.tsv"))
                .Select(line => line.Split('\t'))
                .Select(line => (Piece: line[0] == "-" ? 0 : int.Parse(line[0], CultureInfo.InvariantCulture), Text: line[1]))
                .Select(idea => (idea.Piece, Found: papers.Read(db => find.Said(db, idea.Text, onlyOut: true, 0.2))))
                .ToList();
            var says = ideas.Count(i => i.Piece > 0);
            var table = new StringBuilder()
                .AppendLine()
                .AppendLine("## Said already")
                .AppendLine()
                .AppendLine(
                    CultureInfo.InvariantCulture,
                    $"{says} ideas that a release says in other words, {ideas.Count - says} that none says."
                )
                .AppendLine()
                .AppendLine("| from a share of | precision | recall | of the right piece |")
                .AppendLine("| ---: | ---: | ---: | ---: |");
            foreach (var share in new[] { 0.4, 0.5, 0.6, IdeaStore.SaidShare, 0.7, 0.8 }.Distinct())
            {
                var marked = ideas.Where(i => i.Found.Count > 0 && i.Found[0].Saying.Share >= share).ToList();
                var right = marked.Count(i => i.Piece > 0);
                table.AppendLine(
                    CultureInfo.InvariantCulture,
                    $"| {share:0.00} | {(double)right / Math.Max(1, marked.Count):0.00} | {(double)right / says:0.00} "
                        + $"| {marked.Count(i => i.Piece > 0 && i.Found[0].Piece.Value == i.Piece)} of {right} |"
                );
            }
            return table.ToString();
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }
}
