namespace Nachlass.Exchange.Capture;

/// <summary>What a file says and Nachlass has no place for, to be told as a doubt: nothing is lost without a word.</summary>
internal sealed class LeftOut
{
    /// <summary>Things named at most, and characters of each, so that a doubt stays a sentence.</summary>
    private const int MostNamed = 12;
    private const int Longest = 80;

    private readonly List<string> doubts = [];
    private readonly List<string> left = [];

    /// <summary>Leaves a thing out, with what it says; nothing when it says nothing.</summary>
    public void Add(string what, string? said)
    {
        var words = string.Join(' ', (said ?? "").Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));
        if (words.Length > 0)
            left.Add($"{what} “{(words.Length > Longest ? words[..Longest] + "…" : words)}”");
    }

    /// <summary>Leaves out a thing that has no words.</summary>
    public void Add(string what) => left.Add(what);

    /// <summary>Says something else that should be looked at: a sentence without its full stop.</summary>
    public void Doubt(string sentence) => doubts.Add(sentence);

    /// <summary>All of it in a sentence or two; null when there is nothing to tell.</summary>
    public string? Said
    {
        get
        {
            var said = doubts.ToList();
            if (left.Count > 0)
                said.Add(
                    "there is no place here for "
                        + string.Join(", ", left.Take(MostNamed))
                        + (left.Count > MostNamed ? $" and {left.Count - MostNamed} more" : "")
                );
            return said.Count == 0 ? null : string.Join("; ", said) + ".";
        }
    }
}
