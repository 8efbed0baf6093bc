using Nachlass.Core.Capture;
using Nachlass.Core.Catalogue.Pages;
using Nachlass.Core.Papers;
using Nachlass.Exchange.Capture;
using Nachlass.Store.Catalogue.Pages;
using Nachlass.Store.Papers;
using Nachlass.Web.Capture;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Catalogue.Pages;

/// <summary>Looks at a page elsewhere that says it mentions one of the writer's, when the writer asks for it and not before: no host is
/// called because a stranger named it.</summary>
internal sealed class MentionLook(PageStore pages, PublicSite site, Imports imports, Reader reader, PapersFile papers) : IDisposable
{
    private const int MostBytes = 2 << 20;

    private readonly HttpClient http = new(new SocketsHttpHandler { AllowAutoRedirect = false, UseProxy = false })
    {
        Timeout = TimeSpan.FromSeconds(20),
        MaxResponseContentBufferSize = MostBytes,
    };

    /// <summary>Reads the page as any strange file is read, in a process of its own, and keeps what it says of the mentioned
    /// one.</summary>
    /// <exception cref="ClashException">It can't be read, or does not mention the page.</exception>
    public async Task<Done<PageShown>> Look(CommentNumber number, Once once, CancellationToken stop)
    {
        var (comment, page) = pages.Mention(number);
        var html = await Fetch(comment.Source, stop);
        var parcel = imports.NewParcel();
        try
        {
            parcel.Add("mention.html", new MemoryStream(html));
            var found = await Task.Run(
                () =>
                    reader
                        .Read(parcel, new ToRead(papers.Today, Documents: DocumentsAs.Source), stop: stop)
                        .Things(parcel)
                        .Select(t => t.Found)
                        .OfType<Found.OfSource>()
                        .Select(t => t.Source)
                        .FirstOrDefault(),
                stop
            );
            if (found is null || Webmention.Said(comment.Source, found.Creators, found.Text, site.Site.AddressOf(page)) is not { } said)
                throw new ClashException("It does not mention this page, as far as it can be read.");
            return pages.Looked(number, said.Person, said.Text, once);
        }
        finally
        {
            Directory.Delete(parcel.Folder, recursive: true);
        }
    }

    private async Task<byte[]> Fetch(string source, CancellationToken stop)
    {
        try
        {
            using var answer = await http.GetAsync(source, stop);
            if (!answer.IsSuccessStatusCode)
                throw new ClashException($"That page answers {(int)answer.StatusCode}.");
            if (answer.Content.Headers.ContentType?.MediaType is not ("text/html" or "application/xhtml+xml"))
                throw new ClashException("That is no page that can be read: it is no HTML.");
            return await answer.Content.ReadAsByteArrayAsync(stop);
        }
        catch (Exception error)
            when (error is HttpRequestException or IOException || (error is OperationCanceledException && !stop.IsCancellationRequested))
        {
            throw new ClashException("That page can't be reached, or is larger than 2 MB.");
        }
    }

    public void Dispose() => http.Dispose();
}
