using Nachlass.Core.Capture;
using Nachlass.Core.Ideas;
using Nachlass.Core.Papers;
using Nachlass.Core.Sift;
using Nachlass.Core.Text;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;
using Nachlass.Store.Sift;

namespace Nachlass.Store.Ideas;

/// <summary>Ideas that are taken.</summary>
internal static class TakenIdeas
{
    /// <summary>A kept slip of an idea, with links to what it was made from.</summary>
    public static Slip Slip(Change change, MadeIdea idea, IReadOnlyList<TopicNumber> topics)
    {
        var from = idea.From.Select(LinkTo).OfType<string>().ToList();
        // What came from outside says just its words: no mark in it may link, show or tag anything.
        var text = idea.Kind == SparkKind.Service ? WordsAsMarkdown.Of(idea.Text) : idea.Text;
        return SlipRows.Add(
            change,
            new NewSlip(from.Count == 0 ? text : $"{text}\n\nMade from {string.Join(", ", from)}.")
            {
                Kind = SlipKind.Idea,
                State = SlipState.Kept,
                OriginNote = idea.Shape.Length == 0 ? "proposed" : $"proposed: {idea.Shape}",
                Topics = topics,
            }
        );
    }

    private static string? LinkTo(IdeaOrigin origin) =>
        origin.Kind switch
        {
            OriginKind.Slip => $"[[slip {origin.Number}]]",
            OriginKind.Source => $"[[source {origin.Number}]]",
            OriginKind.Piece => $"[[piece {origin.Number}]]",
            // What has no link of its own is named.
            OriginKind.Release => $"release {origin.Number}",
            OriginKind.Ask => $"ask {origin.Number}",
            OriginKind.Occasion => origin.Title,
            _ => null,
        };
}
