using System.Text;
using System.Text.Json.Nodes;
using Nachlass.Standins.Catalogue;

namespace Nachlass.Web.Tests;

/// <summary>A mailbox is looked into over the real protocol, nothing in it is changed, and each mail comes in once.</summary>
public sealed class MailboxTests : IAsyncLifetime
{
    private const string Password = "a-password-nobody-guesses";
    private readonly Server server = new();
    private MailboxServer box = null!;

    public async ValueTask InitializeAsync() => box = await MailboxServer.Start(0, "readers", Password, TimeProvider.System);

    public async ValueTask DisposeAsync()
    {
        server.Dispose();
        await box.DisposeAsync();
    }

    private Task<(int Status, JsonNode? Body, HttpResponseMessage)> Watch(
        string? secret = Password,
        string? trusts = null,
        string? since = null
    ) =>
        server.Send(
            HttpMethod.Put,
            "/api/mailbox",
            new
            {
                address = $"127.0.0.1:{box.Port}",
                user = "readers",
                secret,
                since,
                trusts = trusts ?? box.Certificate,
            }
        );

    private async Task<JsonNode> Look()
    {
        var (status, body, _) = await server.Post("/api/mailbox/look", new { });
        status.ShouldBe(200, body?.ToString());
        return body!;
    }

    private async Task<JsonNode> Messages() => (await server.Get("/api/messages")).Body!;

    private async Task<JsonNode> Stands() => (await server.Get("/api/mailbox")).Body!["stands"]!;

    [Fact]
    public async Task What_is_new_comes_in_once_and_undo_takes_it_away_for_good()
    {
        (await Watch()).Status.ShouldBe(200);
        (await Look())["messages"]!.GetValue<int>().ShouldBe(0);
        box.Deliver("Ada <ada@readers.example>", "Re: The bell", "What was a penny worth, in bread?");
        box.Deliver("Tom <tom@readers.example>", "Bread", "How many loaves would that penny have bought?\n\n> quoted words");
        var looked = await Look();
        looked["problem"]!.GetValue<string>().ShouldBeEmpty();
        looked["messages"]!.GetValue<int>().ShouldBe(2);
        (await Look())["messages"]!.GetValue<int>().ShouldBe(0);

        var messages = await Messages();
        messages["all"]!.GetValue<int>().ShouldBe(2);
        messages["messages"]![0]!["message"]!["person"]!.GetValue<string>().ShouldBeOneOf("Ada", "Tom");
        (await server.Get("/api/asks")).Body!.AsArray().ShouldHaveSingleItem()!["people"]!.GetValue<int>().ShouldBe(2);
        (await Stands())["came"]!.GetValue<int>().ShouldBe(2);
        box.Changes.ShouldBe(0);

        var command = (await server.Get("/api/commands")).Body!.AsArray()[0]!["command"]!.GetValue<int>();
        (await server.Post($"/api/commands/{command}/undo", new { })).Status.ShouldBe(200);
        (await Look())["messages"]!.GetValue<int>().ShouldBe(0);
        (await Messages())["all"]!.GetValue<int>().ShouldBe(0);
    }

    [Fact]
    public async Task A_box_that_numbers_its_mails_anew_brings_none_twice()
    {
        await Watch();
        box.Deliver("Ada <ada@readers.example>", "One", "First.");
        await Look();
        box.NumberAnew();
        box.Deliver("Tom <tom@readers.example>", "Two", "Second.");
        (await Look())["messages"]!.GetValue<int>().ShouldBe(1);
        (await Messages())["all"]!.GetValue<int>().ShouldBe(2);
    }

    [Fact]
    public async Task Mails_of_before_the_first_day_stay_where_they_are()
    {
        box.Deliver("Ada <ada@readers.example>", "Old", "Old words.", DateTimeOffset.UtcNow.AddDays(-90));
        box.Deliver("Ada <ada@readers.example>", "New", "New words.");
        await Watch();
        (await Look())["messages"]!.GetValue<int>().ShouldBe(1);
        // An earlier day goes through it from the beginning.
        await Watch(
            secret: null,
            since: DateTime.UtcNow.AddDays(-120).ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture)
        );
        (await Look())["messages"]!.GetValue<int>().ShouldBe(1);
        (await Messages())["all"]!.GetValue<int>().ShouldBe(2);
    }

    [Theory]
    [InlineData(PostFault.Down)]
    [InlineData(PostFault.Wrong)]
    [InlineData(PostFault.Full)]
    [InlineData(PostFault.Lost)]
    public async Task Whatever_the_box_does_the_next_look_brings_what_is_in_it(PostFault fault)
    {
        await Watch();
        box.Deliver("Ada <ada@readers.example>", "One", "Words that are worth having.");
        box.Fail(fault);
        (await Look())["problem"]!.GetValue<string>().ShouldNotBeEmpty();
        (await Stands())["rests"]!.GetValue<bool>().ShouldBeFalse();
        (await Look())["messages"]!.GetValue<int>().ShouldBe(1);
        (await Stands())["problem"]!.GetValue<string>().ShouldBeEmpty();
    }

    [Fact]
    public async Task A_certificate_nobody_vouches_for_is_shown_and_not_believed_by_itself()
    {
        await Watch(trusts: "");
        var looked = await Look();
        looked["problem"]!.GetValue<string>().ShouldContain("Nobody vouches");
        looked["certificate"]!.GetValue<string>().ShouldBe(box.Certificate);
        looked["certificateOf"]!.GetValue<string>().ShouldContain("Mailbox (a stand-in)");
        box.SignIns.ShouldBe(0);
    }

    [Fact]
    public async Task A_wrong_password_is_tried_once_and_is_never_shown_again()
    {
        await Watch(secret: "wrong");
        (await Look())["problem"]!.GetValue<string>().ShouldBe("It does not take the name and password.");
        (await Stands())["rests"]!.GetValue<bool>().ShouldBeTrue();
        await Watch();
        var (_, body, response) = await server.Get("/api/mailbox");
        body!.ToString().ShouldNotContain(Password);
        response.IsSuccessStatusCode.ShouldBeTrue();
        var kept = Encoding.UTF8.GetString(
            await server.Client.GetByteArrayAsync("/api/papers/export", TestContext.Current.CancellationToken)
        );
        kept.ShouldNotContain(Password);
    }

    [Fact]
    public async Task What_is_typed_wrong_is_refused_at_its_field_and_what_was_told_to_one_box_is_told_to_no_other()
    {
        async Task<string> Field(object body)
        {
            var (status, said, _) = await server.Send(HttpMethod.Put, "/api/mailbox", body);
            status.ShouldBe(400);
            return said!["field"]!.GetValue<string>();
        }

        (
            await Field(
                new
                {
                    address = "no server",
                    user = "a",
                    secret = "b",
                }
            )
        ).ShouldBe("address");
        (
            await Field(
                new
                {
                    address = "mail.example",
                    user = "",
                    secret = "b",
                }
            )
        ).ShouldBe("user");
        (await Field(new { address = "mail.example", user = "a" })).ShouldBe("secret");
        (
            await Field(
                new
                {
                    address = "mail.example",
                    user = "a",
                    secret = "b",
                    since = "2999-01-01",
                }
            )
        ).ShouldBe("since");
        await Watch();
        (await Field(new { address = "elsewhere.example", user = "readers" })).ShouldBe("secret");
        (await server.Send(HttpMethod.Delete, "/api/mailbox")).Status.ShouldBe(204);
        (await server.Get("/api/mailbox")).Body!["stands"].ShouldBeNull();
    }

    [Fact]
    public async Task One_mail_that_can_t_be_taken_keeps_no_other_out()
    {
        await Watch();
        box.Deliver("no mail at all"u8.ToArray(), DateTimeOffset.UtcNow);
        box.Deliver("Ada <ada@readers.example>", "Huge", new string('x', 2_000_000));
        box.Deliver("Tom <tom@readers.example>", "Good", "Words.");
        (await Look())["problem"]!.GetValue<string>().ShouldBeEmpty();
        (await Messages())["messages"]!.AsArray().Select(m => m!["message"]!["person"]!.GetValue<string>()).ShouldContain("Tom");
        (await Look())["messages"]!.GetValue<int>().ShouldBe(0);
    }
}
