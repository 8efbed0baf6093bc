using Nachlass.Core.Catalogue;
using Nachlass.Core.Catalogue.Queue;
using Nachlass.Exchange.Papers;
using Nachlass.Exchange.Pieces;

namespace Nachlass.Web.Catalogue.Queue;

/// <summary>Sends a piece as a Markdown file into a folder. The file's name ends in its key, so that the same thing is never written
/// twice.</summary>
internal sealed class Folder : IChannel
{
    public Task<Outcome> Send(Connection connection, string secret, Post post, CancellationToken stop)
    {
        var name = NameOf(connection, post);
        try
        {
            Directory.CreateDirectory(connection.Address);
            // Whole or not at all: under another name until it is written.
            var begun = name + ".part";
            if (post.Shows is not null && post.Picture(Post.OwnPicture) is { } picture)
            {
                File.WriteAllBytes(begun, picture.Content);
                File.Move(begun, Path.ChangeExtension(name, SentPicture.EndingOf(picture.Type)), overwrite: true);
            }
            File.WriteAllText(begun, Written(post, Path.GetFileNameWithoutExtension(name)));
            File.Move(begun, name, overwrite: true);
            return Task.FromResult<Outcome>(new Outcome.Taken(""));
        }
        catch (Exception error) when (error is IOException or UnauthorizedAccessException)
        {
            return Task.FromResult<Outcome>(new Outcome.Later($"The folder can't be written ({error.Message})."));
        }
    }

    /// <summary>The file; its own picture lies beside it under the same name.</summary>
    private static string Written(Post post, string name)
    {
        var picture =
            post.Shows is { } shows && post.Picture(Post.OwnPicture) is { } own
                ? $"{Post.Image(shows, name + SentPicture.EndingOf(own.Type))}\n\n"
                : "";
        return new FrontMatterWriter().Add("title", post.Title).Write(picture + post.Text);
    }

    public ShownPart Shown(Connection connection, Post post, Func<string, string> at) =>
        new(
            "",
            "",
            post.Shows is null
                ? ""
                : PieceFile.Fragment(Post.Image(post.Shows, Post.OwnPicture), post.Picture, (address, _) => at(address)),
            Written(post, PieceFile.Name(post.Title))
        );

    public async Task<Outcome?> PutRight(Connection connection, string secret, string address, Post post, CancellationToken stop) =>
        // What was not sent from here has no file of ours.
        post.Key.Length == 0
            ? null
            : await Send(connection, secret, post, stop);

    public Task<Outcome?> Look(Connection connection, string secret, Post post, CancellationToken stop) =>
        Task.FromResult<Outcome?>(File.Exists(NameOf(connection, post)) ? new Outcome.WasThere("") : null);

    public Task<string> Try(Connection connection, string secret, CancellationToken stop)
    {
        try
        {
            Directory.CreateDirectory(connection.Address);
            var probe = Path.Combine(connection.Address, ".nachlass");
            File.WriteAllText(probe, "");
            File.Delete(probe);
            return Task.FromResult("");
        }
        catch (Exception error) when (error is IOException or UnauthorizedAccessException)
        {
            return Task.FromResult($"The folder can't be written ({error.Message}).");
        }
    }

    private static string NameOf(Connection connection, Post post) =>
        Path.Combine(connection.Address, $"{PieceFile.Name(post.Title)}-{post.Key[..8]}.md");
}
