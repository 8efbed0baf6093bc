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
            File.WriteAllText(begun, new FrontMatterWriter().Add("title", post.Title).Write(post.Text));
            File.Move(begun, name, overwrite: true);
            return Task.FromResult<Outcome>(new Outcome.Taken(""));
        }
        catch (Exception error) when (error is IOException or UnauthorizedAccessException)
        {
            return Task.FromResult<Outcome>(new Outcome.Later($"The folder can't be written ({error.Message})."));
        }
    }

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
