using OpenQA.Selenium;

namespace Nachlass.Browser.Tests;

/// <summary>A piece is put up as a page, read and commented on by others, and taken down, with the demo papers.</summary>
public sealed class PagesTests : IDisposable
{
    private readonly App app = App.WithDemoPapers();
    private readonly Writer writer;

    public PagesTests() => writer = new Writer(app);

    public void Dispose()
    {
        writer.Dispose();
        app.Dispose();
    }

    [Fact]
    public void A_page_with_a_passphrase_is_read_commented_on_and_taken_down()
    {
        writer.Open("/bench/38").Sees("Stone is slower");
        writer.Press("Take out ▾");
        writer.Press("Put it up as a page…");
        writer.Field("Address").SendKeys("Stone is slower");
        writer.Field("know a passphrase").Click();
        writer.Field("may comment").Click();
        writer.Press("Put it up");
        writer.Sees("Say the passphrase its readers are to know.");
        writer.Field("Passphrase").SendKeys("low water");
        writer.Press("Put it up");
        writer.Sees("An address is made of small letters, digits and hyphens");
        // What was typed is still there.
        writer.Value("Passphrase").ShouldBe("low water");
        writer.Fill(writer.Field("Address"), "stone");
        writer.Press("Put it up");
        writer.Sees("It is up.");
        writer.Sees("Nobody has read it yet.");
        var address = writer.Finds(By.LinkText("Read it")).GetAttribute("href")!;
        var desk = writer.Driver.Url;

        writer.Driver.Navigate().GoToUrl(address);
        writer.Sees("This page is closed");
        writer.Field("Its passphrase").SendKeys("high water" + Keys.Enter);
        writer.Sees("That is not its passphrase.");
        writer.Field("Its passphrase").SendKeys("low water" + Keys.Enter);
        writer.Sees("Stone is slower");
        writer.Field("Your name").SendKeys("Ottilie Marsh");
        writer.Field("Your comment").SendKeys("Could you write about the masons?");
        // A person takes a moment.
        Thread.Sleep(3_100);
        writer.Press("Send it");
        writer.Sees("Thank you. It will be read, and shown then.");
        writer.SeesNot("Ottilie Marsh");

        writer.Driver.Navigate().GoToUrl(desk);
        writer.Sees("Ottilie Marsh");
        writer.Press("show it");
        writer.Sees("It stands on the page, and among the messages.");
        // What is counted is written down every other second.
        Thread.Sleep(2_200);
        writer.Driver.Navigate().Refresh();
        writer.Sees("1 reader, ");
        writer.Driver.Navigate().GoToUrl(address);
        writer.Sees("Comments (1)");
        writer.Sees("Could you write about the masons?");

        writer.Driver.Navigate().GoToUrl(desk);
        writer.Press("Take it down");
        writer.Sees("Taken down; its address answers that it is gone.");
        writer.Driver.Navigate().GoToUrl(address);
        writer.Sees("This page is gone");
        writer.Open("/catalogue/messages?with=masons").Sees("Ottilie Marsh");
    }
}
