using Nachlass.Core.Bench;
using Nachlass.Core.Catalogue.Queue;
using Nachlass.Core.Papers;
using Nachlass.Exchange.Pieces;

namespace Nachlass.Web.Catalogue.Queue;

/// <summary>Something that is sent by itself.</summary>
/// <param name="Key">By which the outlet is asked whether it has it.</param>
/// <param name="Title">Of the whole; empty for a post that has none.</param>
/// <param name="Text">As Markdown.</param>
/// <param name="ReplyTo">The address of the post before it in its thread; empty for none.</param>
/// <param name="Piece">The piece it is, or is a part of.</param>
/// <param name="Language">Of its text, as a BCP 47 tag.</param>
/// <param name="Picture">Finds a picture by its address in the text; null when it is none of these papers.</param>
/// <param name="Shows">What the picture of its own shows, which is found at <see cref="OwnPicture"/>; null where it has none.</param>
internal sealed record Post(
    string Key,
    string Title,
    string Text,
    string ReplyTo,
    PieceNumber Piece,
    string Language,
    Func<string, Picture?> Picture,
    string? Shows = null
)
{
    public const string OwnPicture = "/picture";

    /// <summary>The text under its own picture.</summary>
    public string Whole => Shows is null ? Text : $"{Image(Shows, OwnPicture)}\n\n{Text}";

    /// <summary>A picture as Markdown.</summary>
    public static string Image(string shows, string address) =>
        $"![{string.Concat(shows.Select(c => char.IsAsciiLetterOrDigit(c) || c > 127 || c == ' ' ? $"{c}" : $"\\{c}"))}]({address})";
}

/// <summary>What an outlet told of something it has.</summary>
/// <param name="Figures">Totals by name; null where it told none.</param>
/// <param name="Problem">Why it told none, in a sentence.</param>
/// <param name="IsOfThisOne">Whether it may tell those of another.</param>
internal sealed record FiguresTold(IReadOnlyDictionary<string, int>? Figures, string Problem, bool IsOfThisOne = false);

/// <summary>A way to reach an outlet.</summary>
internal interface IChannel
{
    /// <summary>Sends something once.</summary>
    Task<Outcome> Send(Connection connection, string secret, Post post, CancellationToken stop);

    /// <summary>How something is seen where it goes out.</summary>
    /// <param name="at">Where a picture lies that is at an address in the text.</param>
    ShownPart Shown(Connection connection, Post post, Func<string, string> at) =>
        new("", post.Title, PieceFile.Fragment(post.Whole, post.Picture, (address, _) => at(address)), "");

    /// <summary>Looks whether the outlet has something already.</summary>
    /// <returns>That it was there; null when it is not; that nobody can tell, or that it could not be asked now.</returns>
    Task<Outcome?> Look(Connection connection, string secret, Post post, CancellationToken stop);

    /// <summary>Asks whether the outlet would take something, without sending anything.</summary>
    /// <returns>What is wrong, in a sentence; empty when nothing is.</returns>
    Task<string> Try(Connection connection, string secret, CancellationToken stop);

    /// <summary>Puts a text that was put right in the place of the one the outlet has. Done twice it is the same.</summary>
    /// <param name="address">Where it can be read.</param>
    /// <returns>Null where that can't be done by this way.</returns>
    Task<Outcome?> PutRight(Connection connection, string secret, string address, Post post, CancellationToken stop) =>
        Task.FromResult<Outcome?>(null);

    /// <summary>Asks what became of something.</summary>
    /// <param name="address">Where it can be read.</param>
    Task<FiguresTold> Figures(Connection connection, string secret, string address, CancellationToken stop) =>
        Task.FromResult(new FiguresTold(null, "This outlet tells no figures. Type those you know."));
}
