using Nachlass.Standins.Catalogue;
using OpenQA.Selenium;

namespace Nachlass.Browser.Tests;

/// <summary>An outlet is connected and a piece sent there, over the real protocol, with the demo papers.</summary>
public sealed class SendingTests : IAsyncLifetime
{
    private readonly App app = App.WithDemoPapers();
    private readonly Writer writer;
    private PostServer posts = null!;

    public SendingTests() => writer = new Writer(app);

    public async ValueTask InitializeAsync() =>
        posts = await PostServer.Start(0, "Short posts", "the-token", 300, null, TimeProvider.System);

    public async ValueTask DisposeAsync()
    {
        writer.Dispose();
        app.Dispose();
        await posts.DisposeAsync();
    }

    private void Connect(string token)
    {
        writer.Open("/plan/outlets");
        writer.Press("part", writer.Part("Short posts"));
        writer.Sees("Short posts is not connected any more.");
        writer.Press("connect it", writer.Part("Short posts"));
        writer.Field("Endpoint").SendKeys(posts.Endpoint.ToString());
        writer.Field("Token").SendKeys(token);
        writer.Press("Connect and try");
    }

    [Fact]
    public void A_thread_whose_answer_is_lost_is_looked_for_and_not_doubled()
    {
        Connect("the-token");
        writer.Sees("Short posts is connected.");
        writer.Send("/api/pieces", new { title = "Nineteen steps", format = "thread" });
        writer.Open("/bench/48").Sees("Nineteen steps");
        writer.Press("Take out ▾");
        writer.Press("Send it…");
        writer.Sees("There is not a word in it.");
        writer.Press("change its text");
        var text = writer.Field("The text as it goes out");
        text.SendKeys("There are nineteen steps." + "\n\n---\n\n" + "Or eighteen.");
        writer.Sees("Changed for this outlet alone");
        posts.Fail(PostFault.None);
        posts.Fail(PostFault.Lost);
        writer.Until(() => writer.Button("Send it now").Enabled, "the button to send");
        writer.Press("Send it now");
        writer.Sees("It is on its way.");

        writer.Open("/catalogue/queue").Sees("1 of 2 posts are out.");
        writer.Sees("no answer came");
        writer.Press("try now");
        writer.Sees("to Short posts · sent");
        writer.Press("3 attempts");
        writer.Sees("was there already");
        posts.Posts.Select(p => p.Content).ShouldBe(["There are nineteen steps.", "Or eighteen."]);
        posts.Posts[1].ReplyTo.ShouldBe(new Uri(posts.Address, "/posts/1").ToString());
        writer.Open("/catalogue/39").Sees("sent from the queue");
    }

    [Fact]
    public void A_wrong_token_is_said_and_what_was_typed_stays()
    {
        Connect("another");
        writer.Sees("It is kept, but: The token is not the one of this place.");
        writer.Value("Endpoint").ShouldBe(posts.Endpoint.ToString());
        writer.Field("Token").Clear();
        writer.Field("Token").SendKeys("the-token");
        writer.Press("Connect and try");
        writer.Sees("Short posts is connected.");
        // Never shown again.
        writer.Press("change", writer.Part("Short posts"));
        writer.Value("Token").ShouldBe("");
    }

    [Fact]
    public void What_waits_for_its_day_is_seen_and_taken_out_again()
    {
        Connect("the-token");
        writer.Sees("Short posts is connected.");
        writer.Open("/bench/4").Press("Take out ▾");
        writer.Press("Send it…");
        writer.Sees("What looks unfinished");
        writer.Finds(By.CssSelector("#send-outlet option[value='3']")).Click();
        writer.Sees("more than the outlet takes.");
        writer.Button("Send it now").Enabled.ShouldBeFalse();
        writer.Press("change its text");
        writer.Field("The text as it goes out").Clear();
        writer.Field("The text as it goes out").SendKeys("A crossing had a price on one bank only.");
        writer.Field("on a day").Click();
        writer.Fill(writer.Field("The day it goes out"), "yesterday");
        writer.Press("Put it into the queue");
        writer.Sees("A day on which it is to go out is not before today.");
        // Pressed at once after typing: what stands in the field counts.
        writer.Fill(writer.Field("The day it goes out"), "1 March 2031");
        writer.Until(() => writer.Button("Put it into the queue").Enabled, "the button");
        writer.Press("Put it into the queue");
        writer.Sees("1 Mar 2031");
        // On its own page, too, and from there to the queue.
        writer.Press("to Short posts, Sat, 1 Mar 2031, 07:30");
        writer.IsAt("/catalogue/queue");
        writer.Open("/catalogue").Sees("On its way");
        writer.Sees("1 Mar 2031, 07:30");
        writer.Press("take out");
        writer.Sees("Taken out of the queue.");
        posts.Posts.ShouldBeEmpty();
    }

    [Fact]
    public void What_is_changed_for_an_outlet_outlasts_the_sheet_and_a_picture_says_what_it_shows()
    {
        Connect("the-token");
        writer.Sees("Short posts is connected.");
        writer.Open("/bench/15").Press("Take out ▾");
        writer.Press("Send it…");
        writer.Until(
            () => writer.Part("How it goes out").Text.Contains("pig was in a hurry.", StringComparison.Ordinal),
            "how it goes out"
        );
        writer.Sees("None lies with the piece.");
        writer.Press("change its text");
        writer.Fill(writer.Field("The text as it goes out"), "A pig in a hurry crossed for two.");
        writer.Field("The text as it goes out").SendKeys(Keys.Escape);
        writer.SeesNot("Its text, for this outlet");

        writer.Open("/bench/15/kept").Choose("Attach files", Path.Combine(App.Root, "docs", "examples", "tariff.png"));
        writer.Sees("Attached tariff.png");
        writer.Press("Take out ▾");
        writer.Press("Send it…");
        writer.Value("The text as it goes out").ShouldBe("A pig in a hurry crossed for two.");
        writer.Press("how it goes out");
        writer.Until(() => writer.Part("How it goes out").Text.Contains("crossed for two.", StringComparison.Ordinal), "how it goes out");
        writer.Driver.FindElement(By.CssSelector("[role=radiogroup] input[aria-label='tariff.png']")).SendKeys(Keys.Space);
        writer.Press("Send it now");
        writer.Sees("Say what the picture shows, for those who can't see it.");
        writer.Field("What it shows, for those who can’t see it").SendKeys("The board of tolls");
        writer.Until(() => writer.Part("How it goes out").FindElements(By.CssSelector("img[alt='The board of tolls']")).Count == 1, "it");
        writer.Press("Send it now");
        writer.Sees("It is on its way.");
        writer.Until(
            () => posts.Posts is [{ Photo: not null, Shows: "The board of tolls", Content: "A pig in a hurry crossed for two." }],
            "it"
        );
        writer.Open("/catalogue/39");
        writer.Until(
            () => writer.Driver.FindElement(By.CssSelector("img[alt='The board of tolls']")).GetDomProperty("naturalWidth") != "0",
            "the picture that went out"
        );
        // What was sent is kept; it was no mistake of noting.
        writer.Press("More about this release");
        writer.Sees("Put an error right");
        writer.SeesNot("take it away");
    }
}
