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
internal sealed record Post(
    string Key,
    string Title,
    string Text,
    string ReplyTo,
    PieceNumber Piece,
    string Language,
    Func<string, Picture?> Picture
);

/// <summary>A way to reach an outlet.</summary>
internal interface IChannel
{
    /// <summary>Sends something once.</summary>
    Task<Outcome> Send(Connection connection, string secret, Post post, CancellationToken stop);

    /// <summary>Looks whether the outlet has something already.</summary>
    /// <returns>That it was there; null when it is not; that nobody can tell, or that it could not be asked now.</returns>
    Task<Outcome?> Look(Connection connection, string secret, Post post, CancellationToken stop);

    /// <summary>Asks whether the outlet would take something, without sending anything.</summary>
    /// <returns>What is wrong, in a sentence; empty when nothing is.</returns>
    Task<string> Try(Connection connection, string secret, CancellationToken stop);
}
