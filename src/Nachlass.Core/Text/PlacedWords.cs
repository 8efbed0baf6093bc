namespace Nachlass.Core.Text;

/// <summary>A word that carries meaning, and where it stands in its text.</summary>
public readonly record struct PlacedWord(string Root, string Word, int Start)
{
    public int End => Start + Word.Length;

    /// <summary>Whether it is written with a capital.</summary>
    public bool IsCapital => char.IsUpper(Word[0]);
}

/// <summary>The words of a text with their places.</summary>
public static class PlacedWords
{
    public static List<PlacedWord> Of(string text)
    {
        var words = new List<PlacedWord>();
        var at = 0;
        foreach (var stem in Stems.Of(text))
        {
            // Stems come in the order of the text, so the search never goes back.
            at = text.IndexOf(stem.Word, at, StringComparison.Ordinal);
            words.Add(new PlacedWord(stem.Root, stem.Word, at));
            at += stem.Word.Length;
        }
        return words;
    }
}
