using Nachlass.Core.Catalogue;
using Nachlass.Core.Papers;
using Nachlass.Exchange.Catalogue.Pages;
using Nachlass.Exchange.Pieces;
using Nachlass.Store.Bench;
using Nachlass.Store.Papers;

namespace Nachlass.Web.Catalogue.Queue;

/// <summary>Pictures as they go out: not larger than they are looked at.</summary>
internal sealed class OutgoingPictures(OutStore outs, FileShelf shelf)
{
    /// <summary>A picture of a piece by its address in the text; null when it is none of these papers.</summary>
    public Picture? Of(PieceNumber piece, string address) =>
        outs.PictureOf(piece, address) is { } found ? Of(found.Hash, found.Type, found.Credit) : null;

    /// <summary>The picture that went out with something; null when its file is gone.</summary>
    public Picture? Of(SentPicture own) => File.Exists(shelf.Path(own.Hash)) ? Of(own.Hash, own.Type, own.Credit) : null;

    private Picture Of(string hash, string type, string credit)
    {
        using var content = shelf.Open(hash);
        using var all = new MemoryStream();
        content.CopyTo(all);
        return PictureSizes.ForLetter(new Picture(type, all.ToArray(), credit));
    }
}
