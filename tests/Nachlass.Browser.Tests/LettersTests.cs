using Nachlass.Standins.Catalogue;
using OpenQA.Selenium;

namespace Nachlass.Browser.Tests;

/// <summary>A letter goes to its readers through a letter service that fails in the middle, with the demo papers.</summary>
public sealed class LettersTests : IAsyncLifetime
{
    private readonly App app = App.WithDemoPapers();
    private readonly Writer writer;
    private LetterServer letters = null!;

    public LettersTests() => writer = new Writer(app);

    public async ValueTask InitializeAsync() => letters = await LetterServer.Start(0, "tavle", "the-password", null);

    public async ValueTask DisposeAsync()
    {
        writer.Dispose();
        app.Dispose();
        await letters.DisposeAsync();
    }

    private void Connect()
    {
        writer.Open("/plan/outlets");
        writer.Press("part", writer.Part("Low Water"));
        writer.Sees("Low Water is not connected any more.");
        writer.Press("connect it", writer.Part("Low Water"));
        writer.Field("mail: letters to a list of readers").Click();
        writer.Field("Mail server").SendKeys($"127.0.0.1:{letters.Port}");
        writer.Field("From").SendKeys("Low Water <low-water@tavle.example>");
        writer.Finds(By.Id("connect-user")).SendKeys("tavle");
        writer.Field("Password").SendKeys("the-password");
        writer.Press("Connect and try");
        writer.Sees("Nobody vouches for its certificate.");
        writer.Press("believe this certificate");
        writer.Sees("Low Water is connected.");
    }

    [Fact]
    public void A_letter_with_an_outage_in_the_middle_reaches_every_reader_once()
    {
        Connect();
        writer.Open("/catalogue/readers/1").Sees("65 readers get the letters");
        letters.Fail(PostFault.None, 30);
        letters.Fail(PostFault.Down);
        writer.Open("/bench/2").Press("Take out ▾");
        writer.Press("Send it…");
        writer.Sees("A letter to each of 65 readers");
        writer.Until(() => writer.Button("Send it now").Enabled, "the button to send");
        writer.Press("Send it now");
        writer.Sees("It is on its way.");

        writer.Open("/catalogue/queue").Sees("30 of 65 letters are out.");
        writer.Press("try now");
        writer.Sees("sent to 64; 1 did not get it");
        letters.Letters.Select(l => l.To).Distinct().Count().ShouldBe(64);
        letters.Letters.Count.ShouldBe(64);
        writer.Open("/catalogue/readers/1?with=gone").Sees("the last letter did not get there");

        // A reader leaves by the link in their letter.
        var leave = letters.Letters[0].Read().Headers["List-Unsubscribe"]!.Trim('<', '>');
        writer.Driver.Navigate().GoToUrl(leave);
        writer.Press("Get no more of them");
        writer.Sees("You have left");
        writer.Open("/catalogue/readers/1").Sees("64 readers get the letters, 1 left");
    }

    [Fact]
    public void A_list_of_readers_is_put_in_and_what_cannot_be_read_stays_to_be_put_right()
    {
        writer.Open("/catalogue/readers/1");
        writer.Press("put readers on the list");
        writer.Field("Who, one a line").SendKeys("Ada Loam <ada.loam@reader.example>\nno address here");
        writer.Press("Put them on the list");
        writer.Sees("how");
        writer.Field("How they agreed").SendKeys("at the reading in May");
        writer.Press("Put them on the list");
        writer.Sees("1 reader came onto the list.");
        writer.Value("Who, one a line").ShouldBe("no address here");
        writer.Sees("Ada Loam");
        writer.Press("Forget ada.loam@reader.example");
        writer.Press("forget for ever");
        writer.Sees("All that was known of them is taken away.");
        writer.Until(() => writer.Driver.FindElements(By.XPath("//*[contains(text(),'ada.loam@')]")).Count == 0, "Ada to be gone");
    }

    [Fact]
    public void A_draft_goes_to_a_friend_before_it_goes_out()
    {
        Connect();
        writer.Open("/bench/2").Press("Take out ▾");
        writer.Press("Send the draft to chosen people…");
        // The menu gives the hand back as it closes; what is typed before that is typed nowhere.
        writer.Until(
            () =>
            {
                var to = writer.Driver.FindElement(By.Id("draft-to"));
                to.Clear();
                to.SendKeys("nobody");
                return to.GetDomProperty("value") == "nobody";
            },
            "a name in the field"
        );
        writer.Press("Send it now");
        writer.Sees("“nobody” is no mail address.");
        writer.Fill(writer.Finds(By.Id("draft-to")), "Friend <friend@reader.example>");
        writer.Field("What you say to them first").SendKeys("Is the bell too loud?");
        writer.Press("Send it now");
        writer.Sees("The draft is on its way to 1 person.");
        letters.Letters.ShouldHaveSingleItem().Read().TextBody!.ShouldStartWith("Is the bell too loud?");
    }
}
