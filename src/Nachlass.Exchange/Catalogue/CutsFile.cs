using System.Globalization;
using System.Text;
using Nachlass.Core.Catalogue.Reuse;

namespace Nachlass.Exchange.Catalogue;

/// <summary>Cuts as WebVTT (W3C), so that any program that knows times in a recording can read them: a cue each, its title and what is
/// said in it.</summary>
public static class CutsFile
{
    public static string WebVtt(IEnumerable<Cut> cuts)
    {
        var text = new StringBuilder("WEBVTT\n");
        foreach (var cut in cuts.OrderBy(c => c.FromMs).ThenBy(c => c.Number.Value))
        {
            text.Append('\n').Append(CultureInfo.InvariantCulture, $"cut-{cut.Number.Value}\n{At(cut.FromMs)} --> {At(cut.ToMs)}\n");
            text.Append(Line(cut.Title)).Append('\n');
            if (cut.Passage.Length > 0)
                text.Append(Line(cut.Passage)).Append('\n');
        }
        return text.ToString();
    }

    private static string At(int milliseconds) =>
        TimeSpan.FromMilliseconds(milliseconds).ToString(@"hh\:mm\:ss\.fff", CultureInfo.InvariantCulture);

    /// <summary>A cue's text holds no empty line, no arrow and no bare marks.</summary>
    private static string Line(string text) =>
        string.Join(' ', text.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries))
            .Replace("&", "&amp;", StringComparison.Ordinal)
            .Replace("<", "&lt;", StringComparison.Ordinal)
            .Replace(">", "&gt;", StringComparison.Ordinal);
}
