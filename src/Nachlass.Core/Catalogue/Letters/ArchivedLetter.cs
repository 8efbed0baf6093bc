using Nachlass.Core.Papers;

namespace Nachlass.Core.Catalogue.Letters;

/// <summary>A letter that went out, as it can be read on the site.</summary>
/// <param name="Text">As Markdown; as it was put right, where it was.</param>
/// <param name="Summary">The line that announces it; empty for none.</param>
/// <param name="Language">Of its text, as a BCP 47 tag.</param>
/// <param name="Corrections">What was put right in it, the first first.</param>
public sealed record ArchivedLetter(
    PieceNumber Piece,
    string Title,
    string Text,
    SentPicture? Picture,
    DateOnly OutOn,
    string Summary,
    string Language,
    IReadOnlyList<Correction> Corrections
);
