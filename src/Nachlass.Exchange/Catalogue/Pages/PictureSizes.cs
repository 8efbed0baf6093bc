using Nachlass.Exchange.Pieces;
using SkiaSharp;

namespace Nachlass.Exchange.Catalogue.Pages;

/// <summary>A picture in one of its sizes.</summary>
/// <param name="File">Its name on the site.</param>
public sealed record SizedPicture(string File, int Width, int Height);

/// <summary>Pictures in the sizes in which a site shows them. They are written anew, so that nothing a camera wrote beside the points
/// (where it was, whose it is) goes out with them.</summary>
public static class PictureSizes
{
    /// <summary>In points: a phone, a column of text, that column on a fine screen.</summary>
    private static readonly int[] Widths = [480, 960, 1_600];

    private const int Quality = 82;
    private const long MostPoints = 100_000_000;

    /// <summary>The sizes of a picture, the smallest first: those that are smaller than it is, and its own up to the largest.</summary>
    /// <param name="hash">SHA-256 of its content, in hexadecimal.</param>
    /// <returns>Empty when it can't be read as a picture.</returns>
    public static IReadOnlyList<SizedPicture> Of(string hash, Stream content)
    {
        using var codec = SKCodec.Create(content);
        if (codec is null || (long)codec.Info.Width * codec.Info.Height is <= 0 or > MostPoints)
            return [];
        var (width, height) = IsTurned(codec.EncodedOrigin) ? (codec.Info.Height, codec.Info.Width) : (codec.Info.Width, codec.Info.Height);
        return
        [
            .. Widths
                .Where(w => w < width)
                .Append(Math.Min(width, Widths[^1]))
                .Distinct()
                .Select(w => new SizedPicture($"{hash[..20]}-{w}.webp", w, Math.Max(1, (int)Math.Round((double)height * w / width)))),
        ];
    }

    /// <summary>The beginning of the hash and the width that a file's name says; null when it is none of ours.</summary>
    public static (string Hash, int Width)? Named(string file) =>
        file.EndsWith(".webp", StringComparison.Ordinal)
        && file[..^5].Split('-') is [{ Length: 20 } hash, var width]
        && int.TryParse(width, System.Globalization.CultureInfo.InvariantCulture, out var w)
            ? (hash, w)
            : null;

    /// <summary>A picture as WebP in a width, turned as its camera says.</summary>
    /// <returns>Null when it can't be read as a picture.</returns>
    public static byte[]? At(Stream content, int width)
    {
        using var codec = SKCodec.Create(content);
        if (codec is null || (long)codec.Info.Width * codec.Info.Height is <= 0 or > MostPoints)
            return null;
        using var read = SKBitmap.Decode(codec);
        if (read is null)
            return null;
        using var upright = Upright(read, codec.EncodedOrigin);
        var shown = upright ?? read;
        if (shown.Width <= width)
            return Encoded(shown);
        using var small = shown.Resize(
            new SKImageInfo(width, Math.Max(1, (int)Math.Round((double)shown.Height * width / shown.Width))),
            new SKSamplingOptions(SKCubicResampler.Mitchell)
        );
        return small is null ? null : Encoded(small);
    }

    /// <summary>As wide as a letter is, on a fine screen.</summary>
    private const int LetterWidth = 1_152;

    private const int MostInLetter = 400 << 10;

    /// <summary>A picture as it goes along with a letter: as it is where it is small, else as JPEG, which every mail program
    /// shows.</summary>
    public static Picture ForLetter(Picture picture)
    {
        if (picture.Content.Length <= MostInLetter)
            return picture;
        using var codec = SKCodec.Create(new MemoryStream(picture.Content));
        if (codec is null || (long)codec.Info.Width * codec.Info.Height is <= 0 or > MostPoints)
            return picture;
        using var read = SKBitmap.Decode(codec);
        if (read is null)
            return picture;
        using var upright = Upright(read, codec.EncodedOrigin);
        var shown = upright ?? read;
        var width = Math.Min(shown.Width, LetterWidth);
        // What can be seen through lies on white paper.
        using var paper = new SKBitmap(width, Math.Max(1, (int)Math.Round((double)shown.Height * width / shown.Width)));
        using (var canvas = new SKCanvas(paper))
        {
            canvas.Clear(SKColors.White);
            using var image = SKImage.FromBitmap(shown);
            canvas.DrawImage(image, new SKRect(0, 0, paper.Width, paper.Height), new SKSamplingOptions(SKCubicResampler.Mitchell));
        }
        using var data = paper.Encode(SKEncodedImageFormat.Jpeg, Quality);
        return picture with { Type = "image/jpeg", Content = data.ToArray() };
    }

    private static byte[] Encoded(SKBitmap bitmap)
    {
        using var data = bitmap.Encode(SKEncodedImageFormat.Webp, Quality);
        return data.ToArray();
    }

    private static bool IsTurned(SKEncodedOrigin origin) =>
        origin is SKEncodedOrigin.LeftTop or SKEncodedOrigin.RightTop or SKEncodedOrigin.RightBottom or SKEncodedOrigin.LeftBottom;

    /// <summary>The picture as it is to be seen (EXIF 2.32, tag Orientation); null when it is that already.</summary>
    private static SKBitmap? Upright(SKBitmap read, SKEncodedOrigin origin)
    {
        if (origin is SKEncodedOrigin.TopLeft or SKEncodedOrigin.Default)
            return null;
        var isTurned = IsTurned(origin);
        var (width, height) = isTurned ? (read.Height, read.Width) : (read.Width, read.Height);
        var upright = new SKBitmap(width, height);
        using var canvas = new SKCanvas(upright);
        var matrix = origin switch
        {
            SKEncodedOrigin.TopRight => new SKMatrix(-1, 0, width, 0, 1, 0, 0, 0, 1),
            SKEncodedOrigin.BottomRight => new SKMatrix(-1, 0, width, 0, -1, height, 0, 0, 1),
            SKEncodedOrigin.BottomLeft => new SKMatrix(1, 0, 0, 0, -1, height, 0, 0, 1),
            SKEncodedOrigin.LeftTop => new SKMatrix(0, 1, 0, 1, 0, 0, 0, 0, 1),
            SKEncodedOrigin.RightTop => new SKMatrix(0, -1, width, 1, 0, 0, 0, 0, 1),
            SKEncodedOrigin.RightBottom => new SKMatrix(0, -1, width, -1, 0, height, 0, 0, 1),
            _ => new SKMatrix(0, 1, 0, -1, 0, height, 0, 0, 1),
        };
        canvas.SetMatrix(matrix);
        canvas.DrawBitmap(read, 0, 0);
        return upright;
    }
}
