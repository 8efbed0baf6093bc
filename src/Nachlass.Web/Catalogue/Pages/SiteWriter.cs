using System.Collections.Concurrent;
using System.IO.Compression;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using Nachlass.Core.Bench;
using Nachlass.Core.Catalogue.Pages;
using Nachlass.Core.Papers;
using Nachlass.Exchange.Catalogue.Audio;
using Nachlass.Exchange.Catalogue.Pages;
using Nachlass.Store.Bench;
using Nachlass.Store.Catalogue.Pages;
using Nachlass.Store.Papers;
using Nachlass.Web.Catalogue.Audio;
using Nachlass.Web.Catalogue.Letters;

namespace Nachlass.Web.Catalogue.Pages;

/// <summary>Writes pages with the pictures that stand in them. What was written is kept until it would be another.</summary>
internal sealed class SiteWriter(PageStore pages, OutStore outs, PieceStore pieces, FileShelf shelf, AudioSite audio, LetterDoors letters)
{
    private const int MostPictures = 200;
    private readonly ConcurrentDictionary<PageNumber, (string Key, string Html)> written = new();
    private readonly ConcurrentDictionary<string, IReadOnlyList<SizedPicture>> sizes = new();
    private readonly ConcurrentDictionary<string, byte[]> pictures = new();

    /// <summary>Where a form's mark stands in what is kept; nobody can write it into a text.</summary>
    private static readonly string MarkPlace = Guid.NewGuid().ToString("N");

    /// <summary>Where the fonts lie that come with the front end; empty where it is not built.</summary>
    public static IReadOnlyDictionary<string, string> Fonts { get; } = FindFonts();

    private static Dictionary<string, string> FindFonts()
    {
        var assets = Path.Combine(AppContext.BaseDirectory, "wwwroot", "assets");
        if (!Directory.Exists(assets))
            return [];
        return new[] { ("literata.woff2", "literata-latin-opsz-normal-*"), ("literata-italic.woff2", "literata-latin-opsz-italic-*") }
            .Select(f => (f.Item1, Directory.EnumerateFiles(assets, f.Item2).FirstOrDefault()))
            .Where(f => f.Item2 is not null)
            .ToDictionary(f => f.Item1, f => f.Item2!);
    }

    public PageText Text(AtAddress.Up up) =>
        new(
            up.Page,
            pieces.Get(up.Parts.Select(p => p.Piece).Append(up.Page.Piece ?? default).First()).Language,
            up.Parts,
            up.Updated,
            up.Comments,
            PictureOf
        );

    /// <summary>A page as HTML, with a fresh mark in its form, and what it is known by again without that.</summary>
    public (string Html, string Tag) Html(Site site, AtAddress.Up up, string? mark)
    {
        var key = Convert.ToHexStringLower(
            SHA256.HashData(
                JsonSerializer.SerializeToUtf8Bytes((site.Name, site.Address, up.Page, up.Parts, up.Comments, mark is null), Keyed)
            )
        );
        if (!written.TryGetValue(up.Page.Number, out var kept) || kept.Key != key)
            written[up.Page.Number] = kept = (key, SiteFiles.Page(site, Text(up), mark is null ? null : new CommentForm(MarkPlace)));
        return (mark is null ? kept.Html : kept.Html.Replace(MarkPlace, mark, StringComparison.Ordinal), key[..24]);
    }

    private static readonly JsonSerializerOptions Keyed = new() { IncludeFields = true };

    private (IReadOnlyList<SizedPicture> Sizes, string Credit)? PictureOf(PieceNumber piece, string address)
    {
        if (outs.PictureOf(piece, address) is not { } found)
            return null;
        var known = sizes.GetOrAdd(
            found.Hash,
            hash =>
            {
                using var content = shelf.Open(hash);
                return PictureSizes.Of(hash, content);
            }
        );
        return (known, found.Credit);
    }

    /// <summary>A picture of a page by the name of its file; null when it does not stand on it.</summary>
    public byte[]? Picture(AtAddress.Up up, string file)
    {
        if (PictureSizes.Named(file) is not { } named)
            return null;
        foreach (var part in up.Parts)
        foreach (var used in Core.Bench.Writing.PicturesInText.In(part.Text))
            if (
                outs.PictureOf(part.Piece, used.Address) is { } found
                && found.Hash.StartsWith(named.Hash, StringComparison.Ordinal)
                && PictureOf(part.Piece, used.Address)!.Value.Sizes.Any(s => s.File == file)
            )
            {
                if (pictures.TryGetValue(file, out var there))
                    return there;
                using var content = shelf.Open(found.Hash);
                var made = PictureSizes.At(content, named.Width);
                if (pictures.Count >= MostPictures)
                    pictures.Clear();
                if (made is not null)
                    pictures[file] = made;
                return made;
            }
        return null;
    }

    /// <summary>All pages that everybody may come upon, as a site of files that works from any server.</summary>
    public void Zip(Site site, Stream to)
    {
        var open = pages.Open();
        var texts = open.Select(Text).ToList();
        using var zip = new ZipArchive(to, ZipArchiveMode.Create, leaveOpen: true);
        var feeds = audio.Feeds(site);
        Add("index.html", SiteFiles.List(site, texts, feeds, letters.Open()));
        Add("feed.atom", SiteFiles.Feed(site, texts));
        Add("sitemap.xml", SiteFiles.Sitemap(site, texts, letters.Addresses(site)));
        Add("robots.txt", SiteFiles.Robots(site));
        Add("style.css", SiteFiles.Style(Fonts.Count > 0));
        foreach (var (name, path) in Fonts)
            zip.CreateEntryFromFile(path, $"fonts/{name}");
        foreach (var (up, text) in open.Zip(texts))
        {
            Add($"{up.Page.Slug}/index.html", SiteFiles.Page(site, text, form: null));
            var put = new HashSet<string>();
            foreach (var part in up.Parts)
            foreach (var used in Core.Bench.Writing.PicturesInText.In(part.Text))
            foreach (var size in PictureOf(part.Piece, used.Address)?.Sizes ?? [])
                if (put.Add(size.File) && Picture(up, size.File) is { } picture)
                    Put($"{up.Page.Slug}/pictures/{size.File}", picture);
        }

        foreach (var (path, html) in letters.Files(site))
            Add($"{path}index.html", html);
        foreach (var feed in feeds)
        {
            Add(feed.Path, AudioFeedFile.Write(feed));
            foreach (var episode in feed.Episodes)
            {
                Add(feed.Place + episode.Recording.Key + AudioFeed.ChaptersEnding, AudioFeedFile.ChaptersOf(episode));
                if (audio.PictureOf(episode) is { } shown)
                    Put(feed.Place + episode.PictureFile, shown.Content);
                using var sound = audio.Open(episode);
                using var entry = sound is null
                    ? null
                    : zip.CreateEntry(feed.Place + episode.Recording.File, CompressionLevel.NoCompression).Open();
                sound?.CopyTo(entry!);
            }
        }

        void Add(string name, string content) => Put(name, Encoding.UTF8.GetBytes(content));

        void Put(string name, byte[] content)
        {
            using var entry = zip.CreateEntry(name).Open();
            entry.Write(content);
        }
    }
}
