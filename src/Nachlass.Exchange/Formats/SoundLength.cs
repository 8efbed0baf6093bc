using TagLib;

namespace Nachlass.Exchange.Formats;

/// <summary>How long a sound is.</summary>
public static class SoundLength
{
    private static readonly TimeSpan Longest = TimeSpan.FromDays(1);

    /// <param name="path">Where the file lies, whatever its name.</param>
    /// <param name="type">Its media type, one of <see cref="Core.Catalogue.Audio.SoundTypes"/>.</param>
    /// <returns>Milliseconds; 0 where that can't be told, or where it claims more than a day.</returns>
    public static int Ms(string path, string type)
    {
        var kind = type switch
        {
            "audio/mpeg" => "taglib/mp3",
            "audio/mp4" => "taglib/m4a",
            "audio/ogg" => "taglib/ogg",
            "audio/flac" => "taglib/flac",
            _ => "taglib/wav",
        };
        try
        {
            using var file = TagLib.File.Create(new TagLib.File.LocalFileAbstraction(path), kind, ReadStyle.Average);
            return file.Properties.Duration is var length && length > TimeSpan.Zero && length <= Longest
                ? (int)length.TotalMilliseconds
                : 0;
        }
        // Its reader meets broken files with exceptions of every kind.
        catch (Exception error) when (error is not OutOfMemoryException)
        {
            return 0;
        }
    }
}
