using System.Runtime.CompilerServices;
using System.Text.Json.Nodes;
using NetArchTest.Rules;

namespace Nachlass.Web.Tests;

/// <summary>What holds the shape of the whole together.</summary>
public class Shape
{
    /// <summary>The folder of the repository.</summary>
    internal static string Root { get; } = Path.GetFullPath(Path.Combine(Path.GetDirectoryName(Here())!, "..", ".."));

    private static string Here([CallerFilePath] string file = "") => file;

    [Theory]
    [InlineData(
        typeof(Core.Papers.Reference),
        new[]
        {
            "Nachlass.Store",
            "Nachlass.Exchange",
            "Nachlass.Standins",
            "Nachlass.Web",
            "Microsoft.AspNetCore",
            "Microsoft.Data.Sqlite",
            "Dapper",
            "System.IO.File",
        }
    )]
    [InlineData(
        typeof(Store.Papers.PapersFile),
        new[] { "Nachlass.Exchange", "Nachlass.Standins", "Nachlass.Web", "Microsoft.AspNetCore" }
    )]
    [InlineData(typeof(Exchange.Papers.PapersZip), new[] { "Nachlass.Store", "Nachlass.Web", "Microsoft.AspNetCore", "Dapper" })]
    public void Dependencies_point_one_way(Type inside, string[] forbidden)
    {
        var result = Types.InAssembly(inside.Assembly).ShouldNot().HaveDependencyOnAny(forbidden).GetResult();
        result.IsSuccessful.ShouldBeTrue(string.Join(", ", result.FailingTypeNames ?? []));
    }

    [Fact]
    public void The_core_has_no_clock_of_its_own()
    {
        var clock = new System.Text.RegularExpressions.Regex(
            @"DateTime(Offset)?\.(Utc)?Now|DateTime\.Today|TimeProvider\.System|new Random|Random\.Shared|Guid\.NewGuid"
        );
        Directory
            .EnumerateFiles(Path.Combine(Root, "src", "Nachlass.Core"), "*.cs", SearchOption.AllDirectories)
            .Where(file =>
                !file.Contains($"{Path.DirectorySeparatorChar}obj{Path.DirectorySeparatorChar}") && clock.IsMatch(File.ReadAllText(file))
            )
            .ShouldBeEmpty();
    }

    /// <summary>The kept document is the one the program describes itself with; "make client" renews it.</summary>
    [Fact]
    public async Task The_openapi_document_is_current()
    {
        using var server = new Server();
        var now = JsonNode.Parse(await server.Client.GetStringAsync("/openapi/v1.json", TestContext.Current.CancellationToken))!;
        var kept = JsonNode.Parse(
            await File.ReadAllTextAsync(Path.Combine(Root, "docs", "openapi.json"), TestContext.Current.CancellationToken)
        )!;
        now.AsObject().Remove("servers");
        kept.AsObject().Remove("servers");
        JsonNode.DeepEquals(now, kept).ShouldBeTrue("docs/openapi.json is stale; run: make client");
    }

    [Theory]
    [InlineData("/api/slips", "post,get")]
    [InlineData("/api/slips/{number}", "get,patch")]
    [InlineData("/api/slips/{number}/decision", "post")]
    [InlineData("/api/slips/{number}/advice", "get")]
    [InlineData("/api/sift", "get")]
    [InlineData("/api/pieces/{number}/draft", "get,patch,put")]
    [InlineData("/api/pieces/{number}/versions", "get,post")]
    [InlineData("/api/pieces/{number}/versions/{a}/against/{b}", "get")]
    [InlineData("/api/pieces/{number}/versions/{a}/take", "post")]
    [InlineData("/api/pieces/{number}/export", "get")]
    [InlineData("/api/papers/export", "get")]
    [InlineData("/api/papers/import", "post")]
    [InlineData("/api/find", "get")]
    public void The_document_names_the_routes_others_rely_on(string route, string methods)
    {
        var kept = JsonNode.Parse(File.ReadAllText(Path.Combine(Root, "docs", "openapi.json")))!;
        kept["paths"]![route].ShouldNotBeNull().AsObject().Select(m => m.Key).ShouldBe(methods.Split(','), ignoreOrder: true);
    }
}
