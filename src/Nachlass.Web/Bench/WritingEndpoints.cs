using Nachlass.Core.Bench.Writing;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Store.Bench;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Bench;

/// <summary>Words on hand while a draft is written: its language, a look over it, spelling and synonyms.</summary>
internal static class WritingEndpoints
{
    public static void MapWriting(this RouteGroupBuilder api)
    {
        api.MapGet("/languages", () => TypedResults.Ok(Languages.All));
        api.MapGet(
            "/pieces/{number}/check",
            (PieceNumber number, OutStore outs, string? without = null) => TypedResults.Ok(outs.Check(number, Kinds(without)))
        );
    }

    /// <summary>Kinds with commas between.</summary>
    private static HashSet<CheckKind> Kinds(string? without) =>
        [
            .. (without ?? "")
                .Split(',', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries)
                .Select(word =>
                    Enum.TryParse<CheckKind>(word, true, out var kind) && Enum.IsDefined(kind)
                        ? kind
                        : throw new BadInputException(
                            "without",
                            $"“{word}” is nothing that is looked for: {string.Join(", ", Enum.GetNames<CheckKind>()).ToLowerInvariant()}."
                        )
                ),
        ];
}
