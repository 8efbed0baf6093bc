using Nachlass.Core.Papers;
using Nachlass.Core.Text;

namespace Nachlass.Web.Bench;

/// <summary>A table as it was written or pasted.</summary>
public sealed record TableText(string? Text);

/// <summary>A table as rows of cells.</summary>
public sealed record TableRows(IReadOnlyList<IReadOnlyList<string>>? Rows, IReadOnlyList<ColumnSet>? Columns = null);

/// <summary>A table as Markdown.</summary>
public sealed record TableWritten(string Text);

/// <summary>Reads and writes the tables of Markdown texts; nothing is kept.</summary>
internal static class TableEndpoints
{
    public static void MapTables(this RouteGroupBuilder api)
    {
        api.MapPost("/tables/read", (TableText asked) => TypedResults.Ok(MarkdownTable.Read(asked.Text ?? "")));
        api.MapPost(
            "/tables/write",
            (TableRows asked) =>
                TypedResults.Ok(
                    new TableWritten(
                        MarkdownTable.Of(asked.Rows ?? throw new BadInputException("rows", "A table has rows."), asked.Columns).Write()
                    )
                )
        );
    }
}
