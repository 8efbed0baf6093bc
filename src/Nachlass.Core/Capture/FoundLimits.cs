using Nachlass.Core.Bench;
using Nachlass.Core.Papers;
using Nachlass.Core.Sources;
using Nachlass.Core.Topics;

namespace Nachlass.Core.Capture;

/// <summary>What is found in a file, as long as its places are: what had to be cut, and topics that can be none, are told.</summary>
public static class FoundLimits
{
    /// <summary>The same thing, where it fits as it is.</summary>
    public static Found Fitted(Found found)
    {
        var told = new List<string>();
        var fitted = found switch
        {
            Found.OfPiece { Draft.Length: > DraftText.Longest } piece => new Found.Unread(
                piece.Line,
                $"its text is longer than {DraftText.Longest:N0} characters. Divide it.",
                piece.Title
            ),
            Found.OfPiece piece => piece with { Title = Cut("title", piece.Title, Piece.LongestTitle, told) },
            Found.OfMove move => move with { Text = Cut("text", move.Text, Move.LongestText, told) },
            Found.OfOccasion occasion => occasion with { Name = Cut("name", occasion.Name, Occasion.LongestName, told) },
            Found.OfSource of => of with { Source = Fitted(of.Source, told) },
            Found.OfSlip of => of with { Slip = Fitted(of.Slip, told) },
            _ => found,
        };
        return told.Count == 0 ? fitted : fitted with { Doubt = string.Join(" ", [.. told, found.Doubt ?? ""]).Trim() };
    }

    private static FoundSlip Fitted(FoundSlip slip, List<string> told)
    {
        Topics(slip.Topics, told);
        return slip with
        {
            Locator = Cut("locator", slip.Locator, Source.LongestField, told),
            Source = slip.Source is { } source ? Fitted(source, told) : null,
        };
    }

    private static FoundSource Fitted(FoundSource source, List<string> told)
    {
        Topics(source.Topics, told);
        string Field(string name, string value) => Cut(name, value, Source.LongestField, told);
        if (source.Address.Length > Source.LongestField)
            told.Add($"its address is longer than {Source.LongestField:N0} characters and was left out.");
        return source with
        {
            Title = Field("title", source.Title),
            Creators = Field("list of creators", source.Creators),
            Container = Field("container", source.Container),
            Date = Field("date", source.Date),
            Language = Field("language", source.Language),
            Address = source.Address.Length > Source.LongestField ? "" : source.Address,
            Details = source.Details.Any(d => d.Value.Length > Source.LongestField)
                ? source.Details.ToDictionary(d => d.Key, d => Field(d.Key, d.Value))
                : source.Details,
            Summary = Cut("summary", source.Summary, Source.LongestText, told),
            Comments = Cut("comment", source.Comments, Source.LongestText, told),
            Text = Cut("text", source.Text, Source.LongestWords, told),
        };
    }

    private static void Topics(IReadOnlyList<string> names, List<string> told)
    {
        foreach (var name in names.Where(n => !CanBeTopic(n)).Take(5))
            told.Add($"“{(name.Length > 80 ? name[..80] + "…" : name)}” can be no topic and was left out.");
    }

    private static bool CanBeTopic(string name)
    {
        try
        {
            TopicName.Clean(name);
            return true;
        }
        catch (BadInputException)
        {
            return false;
        }
    }

    private static string Cut(string what, string value, int most, List<string> told)
    {
        if (value.Length <= most)
            return value;
        told.Add($"its {what} is longer than {most:N0} characters and was cut.");
        return value[..(char.IsHighSurrogate(value[most - 1]) ? most - 1 : most)];
    }
}
