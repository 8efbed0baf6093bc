using Nachlass.Core.Catalogue;
using Nachlass.Core.Catalogue.Asks;
using Nachlass.Core.Papers;
using Nachlass.Exchange.Formats;
using Nachlass.Exchange.Pieces;

namespace Nachlass.Exchange.Papers;

/// <summary>What readers wrote: <c>messages/0012 their-name.md</c>, with the wishes that stand in it and the ask of each; and
/// <c>asks.md</c>.</summary>
internal static class MessagesFile
{
    public const string Name = "asks.md",
        Folder = "messages";

    public static IEnumerable<(string Name, string Content)> Write(PapersImage papers)
    {
        var wishes = papers.Wishes.ToLookup(w => w.Message);
        foreach (var m in papers.Messages)
            yield return (
                $"{Folder}/{m.Number.Value:0000} {PieceFile.Name(m.Person.Length > 0 ? m.Person : "a reader")}.md",
                new FrontMatterWriter()
                    .Add("message", m.Number.Value)
                    .Add("person", m.Person)
                    .Add("address", m.Address)
                    .Add("at", m.At)
                    .Add("way", m.Way)
                    .Add("release", m.Release?.Value)
                    .Add("reach", m.Reach == 1 ? null : m.Reach)
                    .Add("key", m.Key)
                    .Add("answered", m.AnsweredAt)
                    .Add("answer", m.Answer)
                    .Add(
                        "wishes",
                        wishes[m.Number]
                            .Select(w =>
                                new FrontMatterWriter()
                                    .Add("wish", w.Number.Value)
                                    .Add("ask", w.Ask?.Value)
                                    .Add("by-hand", w.ByHand ? "yes" : "")
                                    .Add("text", w.Text)
                            )
                    )
                    .Write(m.Text)
            );
        if (papers.Asks.Count + papers.HiddenWords.Count > 0)
            yield return (
                Name,
                new FrontMatterWriter()
                    .Add(
                        "asks",
                        papers.Asks.Select(a =>
                            new FrontMatterWriter()
                                .Add("ask", a.Number.Value)
                                .Add("title", a.Title)
                                .Add("slip", a.Slip?.Value)
                                .Add("piece", a.Piece?.Value)
                                .Add("put-away", a.IsPutAway ? "yes" : "")
                        )
                    )
                    .Add("hidden-words", papers.HiddenWords)
                    .Write("What readers ask. Which sentences are in an ask stands with their messages.")
            );
    }

    /// <param name="instant">An instant of a file, moved along.</param>
    public static Message Read(string file, FrontMatter f, Func<FrontMatter, string, DateTimeOffset?> instant)
    {
        var person = Check.Length("person", f.Word("person"), Message.LongestPerson);
        var address = Check.Length("address", f.Word("address"), Message.LongestPerson);
        var at = Must(file, "at", instant(f, "at"));
        var text = Check.Text("text", f.Text, Message.LongestText);
        return new Message
        {
            Number = MessageNumber.Of(Must(file, "message", f.Number("message"))),
            Person = person,
            Address = address,
            At = at,
            Way = Check.Length("way", f.Word("way"), Message.LongestWay),
            Release = f.Number("release") is { } release ? ReleaseNumber.Of(release) : null,
            Text = f.Text,
            Reach = f.Number("reach") ?? 1,
            Key = f.Word("key") is { Length: > 0 } key ? key : Message.Fingerprint(person, address, at, text),
            AnsweredAt = instant(f, "answered"),
            Answer = Check.Length("answer", f.Word("answer"), Message.LongestText),
        };
    }

    public static IEnumerable<WishKept> Wishes(string file, FrontMatter f) =>
        f.Records("wishes")
            .Select(w => new WishKept(
                WishNumber.Of(Must(file, "wish", w.Number("wish"))),
                MessageNumber.Of(Must(file, "message", f.Number("message"))),
                Check.Text("text", w.Word("text"), Message.LongestText),
                w.Number("ask") is { } ask ? AskNumber.Of(ask) : null,
                w.Word("by-hand") == "yes"
            ));

    public static IReadOnlyList<AskKept> Asks(FrontMatter? f) =>
        f is null
            ? []
            :
            [
                .. f.Records("asks")
                    .Select(a => new AskKept(
                        AskNumber.Of(Must(Name, "ask", a.Number("ask"))),
                        a.Word("title"),
                        a.Number("slip") is { } slip ? SlipNumber.Of(slip) : null,
                        a.Number("piece") is { } piece ? PieceNumber.Of(piece) : null,
                        a.Word("put-away") == "yes",
                        1
                    )),
            ];

    private static T Must<T>(string file, string field, T? value)
        where T : struct => value ?? throw new UnreadableFileException(file, $"the field “{field}” is missing.");
}
