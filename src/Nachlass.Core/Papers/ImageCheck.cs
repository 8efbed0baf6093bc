using Nachlass.Core.Bench;

namespace Nachlass.Core.Papers;

/// <summary>What whole papers that come in must be, before anything of them is written: what our own commands could have made.</summary>
public static class ImageCheck
{
    /// <summary>The largest number a thing of papers that come in may have, so that there is room for those to be made.</summary>
    public const int LargestNumber = 999_999_999;

    private static readonly string[] Schemes = ["http", "https", "mailto", "ftp", "doi", "urn"];

    /// <summary>The same papers, when nothing is wrong with them.</summary>
    /// <exception cref="BadInputException">What is wrong, and with which thing.</exception>
    public static PapersImage Checked(this PapersImage papers)
    {
        Numbered("topic", papers.Topics.Select(t => t.Number.Value));
        Numbered("source", papers.Sources.Select(s => s.Number.Value));
        Numbered("slip", papers.Slips.Select(s => s.Number.Value));
        Numbered("piece", papers.Pieces.Select(p => p.Piece.Number.Value));
        Numbered("move", papers.Moves.Select(m => m.Number.Value));
        Numbered("attached file", papers.Attachments.Select(a => a.Number.Value));
        Numbered("occasion", papers.Occasions.Select(o => o.Number.Value));
        if (papers.Days.GroupBy(d => d.Day).FirstOrDefault(g => g.Count() > 1) is { } twice)
            throw Wrong($"There are two sheets of {twice.Key:yyyy-MM-dd}.");
        if (papers.Days.Select(d => d.Day).FirstOrDefault(day => !Check.IsDay(day)) is var far && far != default)
            throw Wrong($"There is a sheet of {far:yyyy-MM-dd}; a day is between the years 1000 and 8999.");
        Names(papers);
        foreach (var source in papers.Sources)
            if (source.Address.Length > 0 && !IsAddress(source.Address))
                throw Wrong($"The address of source {source.Number} is none of the web.");
        foreach (var piece in papers.Pieces)
        {
            var headings = DraftText.Split(piece.Draft).Parts.Count;
            if (piece.Sections.Count > headings)
                throw Wrong($"P {piece.Piece.Number} has {piece.Sections.Count} sections and {headings} headings.");
        }
        return papers;
    }

    private static void Names(PapersImage papers)
    {
        var taken = new HashSet<string>(StringComparer.OrdinalIgnoreCase);
        foreach (var topic in papers.Topics.Where(t => t.MergedInto is null))
            if (!taken.Add(topic.Name))
                throw Wrong($"Two topics are called “{topic.Name}”.");
    }

    private static void Numbered(string kind, IEnumerable<int> numbers)
    {
        var seen = new HashSet<int>();
        foreach (var number in numbers)
            if (number is < 1 or > LargestNumber)
                throw Wrong($"A {kind} has the number {number}; numbers go from 1 to {LargestNumber:N0}.");
            else if (!seen.Add(number))
                throw Wrong($"Two of them are {kind} {number}.");
    }

    /// <summary>What is no address at all is left to be read as the words it is; one that would run something is not.</summary>
    private static bool IsAddress(string address) =>
        !Uri.TryCreate(address, UriKind.Absolute, out var uri) || Schemes.Contains(uri.Scheme, StringComparer.OrdinalIgnoreCase);

    private static BadInputException Wrong(string reason) => new("zip", reason + " Nothing was brought in.");
}
