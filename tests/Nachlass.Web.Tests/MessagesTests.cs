using System.Text;
using System.Text.Json.Nodes;

namespace Nachlass.Web.Tests;

/// <summary>Readers' messages come in as tables and mailboxes, and what they ask is answered by the routes that checks rely on.</summary>
public sealed class MessagesTests : IDisposable
{
    private readonly Server server = new();

    public void Dispose() => server.Dispose();

    private Task<(int Status, JsonNode? Body, HttpResponseMessage)> Send(string name, string content)
    {
        var form = new MultipartFormDataContent
        {
            { new ByteArrayContent(Encoding.UTF8.GetBytes(content)), "files", Uri.EscapeDataString(name) },
        };
        return server.Send(HttpMethod.Post, "/api/messages/import", form);
    }

    private const string Table = """
        date,from,email,way,about,reach,text
        2026-09-01T08:00:00Z,Ada,ada@readers.example,mail,,3,"What was a penny worth, in bread?"
        2026-09-02T08:00:00Z,Tom,,page,,,How many loaves would that penny have bought?
        2026-09-03T08:00:00Z,Ida,,mail,,,"Thank you, all the same."
        """;

    private const string Mailbox = """
        From ada@readers.example Tue Sep  1 08:00:00 2026
        From: Ada Ferrand <ada@readers.example>
        Subject: Re: Letter 35
        Date: Tue, 1 Sep 2026 08:00:00 +0000
        Message-ID: <one@readers.example>

        What was a penny worth, in bread?

        From tom@readers.example Wed Sep  2 08:00:00 2026
        From: tom@readers.example
        Date: Wed, 2 Sep 2026 08:00:00 +0000
        Message-ID: <two@readers.example>

        How many loaves would that penny have bought?

        On 1 September 2026 Ines wrote:
        > Is there anything you would like to know?

        """;

    private const string Json = """
        [{"from": "Ada", "text": "What was a penny worth, in bread?", "date": "2026-09-01"},
         {"from": "Tom", "text": "How many loaves would that penny have bought?", "likes": 4}]
        """;

    [Theory]
    [InlineData("readers.csv", Table, 3)]
    [InlineData("readers.mbox", Mailbox, 2)]
    [InlineData("readers.json", Json, 2)]
    public async Task A_file_of_messages_comes_in_once_and_two_who_ask_the_same_are_one_ask(string name, string content, int count)
    {
        var (status, body, _) = await Send(name, content);
        status.ShouldBe(200, body?.ToString());
        body!["messages"]!.GetValue<int>().ShouldBe(count);
        body["wishes"]!.GetValue<int>().ShouldBe(2);
        (await Send(name, content)).Body!["there"]!.GetValue<int>().ShouldBe(count);

        var ask = (await server.Get("/api/asks")).Body!.AsArray().ShouldHaveSingleItem()!;
        ask["people"]!.GetValue<int>().ShouldBe(2);
        ask["messages"]!.AsArray().Count.ShouldBe(2);
        ask["weight"]!.GetValue<double>().ShouldBeGreaterThan(0);
        ask["topics"]!.AsArray().ShouldBeEmpty();
        ask["answeredBy"]!.AsArray().ShouldBeEmpty();
        var shown = (await server.Get("/api/messages?query=penny")).Body!;
        shown["total"]!.GetValue<int>().ShouldBe(2);
    }

    [Theory]
    [InlineData("readers.csv", "what,else\n1,2\n", "No message could be read.")]
    [InlineData("readers.json", "{\"a\": ", "No message could be read.")]
    [InlineData("readers.mbox", "From nobody\n", "No message could be read.")]
    [InlineData("picture.png", "\0\0\0", "No message could be read.")]
    public async Task A_file_without_messages_is_refused_with_its_reason(string name, string content, string reason)
    {
        var (status, body, _) = await Send(name, content);
        status.ShouldBe(400);
        body!["field"]!.GetValue<string>().ShouldBe("files");
        body["detail"]!.GetValue<string>().ShouldStartWith(reason);
        (await server.Get("/api/messages")).Body!["all"]!.GetValue<int>().ShouldBe(0);
    }

    [Fact]
    public async Task What_a_reader_writes_is_shown_as_words_and_runs_nothing()
    {
        const string evil = "<script>alert(1)</script><img src=x onerror=alert(1)> What was a penny worth? [x](javascript:alert(1))";
        await server.Post("/api/messages", new { messages = new[] { new { person = "<b>Ada</b>", text = evil } } });
        var line = (await server.Get("/api/messages")).Body!["messages"]![0]!;
        var html = line["html"]!.GetValue<string>();
        html.ShouldNotContain("<script");
        html.ShouldNotContain("<img src=x onerror");
        html.ShouldNotContain("href=\"javascript");
    }
}
