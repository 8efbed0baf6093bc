using System.Globalization;
using System.Runtime.CompilerServices;
using System.Text;
using System.Text.Json;
using Nachlass.Core.Text;
using Nachlass.Core.Topics;

namespace Nachlass.Bench;

/// <summary>How often texts are rightly set against each other: on labelled pairs, and on real text that was not written for it.</summary>
internal static class Pairs
{
    public const string Command = "pairs";

    /// <summary>The old way, as a reference in the same run: any odd "no" among the words of two near texts, any other number.</summary>
    private static bool ByWordsAlone(string a, string b)
    {
        string[] denials =
        [
            "not",
            "no",
            "never",
            "none",
            "nobody",
            "nothing",
            "neither",
            "nor",
            "without",
            "didn't",
            "doesn't",
            "isn't",
            "but",
            "rather",
            "only",
        ];
        var (one, other) = (Words(a), Words(b));
        var (oneNumbers, otherNumbers) = (Numbers(one), Numbers(other));
        return one.Count(denials.Contains) % 2 != other.Count(denials.Contains) % 2
            || (oneNumbers.Count > 0 && otherNumbers.Count > 0 && !oneNumbers.Overlaps(otherNumbers));

        static List<string> Words(string text) =>
            [.. text.ToLowerInvariant().Split([' ', '.', ',', ';', ':', '?', '!'], StringSplitOptions.RemoveEmptyEntries)];
        static HashSet<string> Numbers(List<string> words) => [.. words.Where(w => w.All(char.IsAsciiDigit))];
    }

    /// <param name="texts">A file of real texts, one JSON object with a <c>text</c> a line; null to leave that part out.</param>
    public static string Measure(string? texts)
    {
        var pairs = File.ReadAllLines(Path.Combine(Path.GetDirectoryName(Here())!, "pairs.tsv"))
            .Select(line => line.Split('\t'))
            .Select(p => (Against: p[0] == "against", A: p[1], B: p[2]))
            .ToList();
        var report = new StringBuilder();
        report.AppendLine("| | precision | recall | of real neighbours set against each other |");
        report.AppendLine("| --- | --- | --- | --- |");
        var near = texts is null ? [] : Neighbours(texts);
        Row("any denial or number in one of them", ByWordsAlone);
        Row("a clause that denies the other (`Opposing`)", (a, b) => Opposing.Of(a, b) is not null);
        report.AppendLine(
            CultureInfo.InvariantCulture,
            $"\n{pairs.Count} labelled pairs, {pairs.Count(p => p.Against)} of them against each other; "
                + $"{near.Count:N0} pairs of real texts that are near."
        );
        foreach (var (_, a, b) in pairs.Where(p => !p.Against && Opposing.Of(p.A, p.B) is not null))
            Console.Error.WriteLine($"{Opposing.Of(a, b)}\n  {a}\n  {b}");
        foreach (var (a, b) in near.Where(p => Opposing.Of(p.A, p.B) is not null).Take(12))
            Console.Error.WriteLine($"{Opposing.Of(a, b)}\n  {a}\n  {b}");
        return report.ToString();

        void Row(string name, Func<string, string, bool> opposed)
        {
            var said = pairs.Where(p => opposed(p.A, p.B)).ToList();
            var right = said.Count(p => p.Against);
            var real = near.Count == 0 ? "" : $"{near.Count(p => opposed(p.A, p.B)) * 100.0 / near.Count:0.0} %";
            report.AppendLine(
                CultureInfo.InvariantCulture,
                $"| {name} | {right * 100.0 / Math.Max(1, said.Count):0} % | {right * 100.0 / pairs.Count(p => p.Against):0} % | {real} |"
            );
        }
    }

    /// <summary>Pairs of real texts that share at least three of their rarer words.</summary>
    private static List<(string A, string B)> Neighbours(string file)
    {
        var texts = File.ReadLines(file)
            .Select(line => JsonDocument.Parse(line).RootElement.GetProperty("text").GetString()!)
            .Where(text => text.Length is > 20 and < 400)
            .ToList();
        var stems = texts.Select(text => Stems.Of(text).Select(s => s.Root).ToHashSet()).ToList();
        var holders = stems.SelectMany((set, at) => set.Select(root => (root, at))).ToLookup(s => s.root, s => s.at);
        var shared = new Dictionary<(int, int), int>();
        foreach (var root in holders.Where(h => h.Count() is > 1 and < 60))
        foreach (var a in root)
        foreach (var b in root.Where(b => b > a))
            shared[(a, b)] = shared.GetValueOrDefault((a, b)) + 1;
        return [.. shared.Where(s => s.Value >= 3).OrderBy(s => s.Key).Select(s => (texts[s.Key.Item1], texts[s.Key.Item2]))];
    }

    internal static string Here([CallerFilePath] string file = "") => file;
}
