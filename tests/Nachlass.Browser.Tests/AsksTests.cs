using OpenQA.Selenium;

namespace Nachlass.Browser.Tests;

/// <summary>What readers ask: six messages become one ask, an idea, a piece, and six answers; with the demo papers.</summary>
public sealed class AsksTests : IDisposable
{
    private readonly App app = App.WithDemoPapers();
    private readonly Writer writer;

    public AsksTests() => writer = new Writer(app);

    public void Dispose()
    {
        writer.Dispose();
        app.Dispose();
    }

    private const string Ask = "What was a penny worth?";

    [Fact]
    public void Six_messages_become_one_ask_an_idea_a_piece_and_six_answers()
    {
        writer.Open("/catalogue/asks").Sees("6 readers, 6 messages");
        writer.Field("What they ask").SendKeys(Keys.Control + "a" + Keys.Null + Ask + Keys.Enter);
        writer.Sees("Changed its words.");
        writer.Press("Make an idea of it");
        writer.Sees("Made an idea of it, with who asked.");
        writer.Press("Begin a piece");
        writer.Sees("Began a piece for it");
        writer.IsAt("/bench/48");
        writer.Server("/api/pieces/48").ShouldContain("What was a penny worth");

        writer.Open("/catalogue/asks").Sees("P 48 in hand");
        writer.Send("/api/pieces/48/releases", new { address = "https://tavle.example/penny", text = "A penny bought a loaf and a half." });
        writer.Driver.Navigate().Refresh();
        writer.Sees("It went out.");
        writer.Press("reply to 6", writer.Part("The ask"));
        writer.Sees("Only those that ask");
        writer.Sees("6 of 150 messages");
        writer.Value("Reply to Josef Brandl").ShouldContain("https://tavle.example/penny");
        for (var left = 6; left > 0; left--)
        {
            writer.Press("More about the message of");
            writer.Press("It is answered");
            var before = left;
            writer.Until(
                () => writer.Part("Messages").Text.Contains(before == 1 ? "0 of 150" : $"{before - 1} of 150", StringComparison.Ordinal),
                "one less to answer"
            );
        }
        writer.Open("/catalogue/asks").Sees("It went out.");
        writer.SeesNot("reply to 6");
    }

    [Fact]
    public void What_was_said_already_is_offered_as_the_reply_which_stays_as_it_is_typed()
    {
        writer.Open("/catalogue/asks").Sees("What do three strokes of the bell mean?");
        writer.Press("What do three strokes of the bell mean?");
        writer.Sees("You said this.");
        writer.Press("reply to 3", writer.Part("The ask"));
        writer.Value("Reply to Sister Agnes Roe").ShouldContain("https://low-water.example/24");
        writer.Field("Reply to Sister Agnes Roe").SendKeys(Keys.Control + Keys.End + Keys.Null + "Yours, Ines");
        writer.Driver.Navigate().Refresh();
        writer.Until(() => writer.Value("Reply to Sister Agnes Roe").EndsWith("Yours, Ines", StringComparison.Ordinal), "what was typed");
    }

    [Fact]
    public void A_slip_that_may_answer_an_ask_is_made_its_idea_and_undo_takes_that_back()
    {
        writer.Open("/catalogue/asks").Sees("6 readers, 6 messages");
        writer.Press("Make an idea of it");
        writer.Sees("Made an idea of it, with who asked.");
        writer.Press("not this one");
        writer.Sees("It has no idea yet.");
        writer.Sees("Make an idea of it");
        writer.Press("this is its idea", writer.Part("Slips that may answer it"));
        writer.Sees("is its idea; who asks counts for it.");
        writer.Part("Its idea").Text.ShouldContain("not this one");
        writer.UndoOf("is its idea; who asks counts for it.");
        writer.Sees("Make an idea of it");
    }

    [Fact]
    public void A_wish_is_parted_by_hand_and_undo_joins_it_again()
    {
        writer.Open("/catalogue/asks").Sees("6 readers, 6 messages");
        writer.Press("Where “How many loaves would that penny have bought?” belongs");
        writer.Press("It is an ask of its own");
        writer.Sees("5 readers, 5 messages");
        writer.UndoOf("Parted it from the others.");
        writer.Sees("6 readers, 6 messages");
    }

    [Fact]
    public void A_hidden_word_takes_messages_out_of_sight_and_brings_them_back()
    {
        writer.Open("/catalogue/messages").Sees("150 messages");
        writer.Field("Hide messages with").SendKeys("penny" + Keys.Enter);
        writer.Sees("messages not shown");
        writer.Press("show again penny");
        writer.Sees("150 messages");
    }

    [Fact]
    public void Of_what_comes_by_thousands_it_is_said_how_much_is_still_to_be_read()
    {
        writer.Open("/catalogue/asks").Sees("6 readers, 6 messages");
        writer.SeesNot("still to be read closely");
        string[] wishes = ["Could you write about {0} in winter?", "I wish you told us how {0} was paid for.", "Please draw {0} for us."];
        string[] things = ["the weir", "a lock keeper", "the rope walk", "the ford", "an eel trap", "the toll gate", "the ice house"];
        writer.Send(
            "/api/messages",
            new
            {
                messages = Enumerable
                    .Range(0, 1_200)
                    .Select(i => new
                    {
                        person = $"Reader {i}",
                        text = string.Format(
                            System.Globalization.CultureInfo.InvariantCulture,
                            wishes[i % wishes.Length],
                            $"{things[i % things.Length]} of year {1_600 + (i / 3)}"
                        ),
                    }),
            }
        );
        writer.Sees("still to be read closely");
        writer.SeesNot("still to be read closely");
        writer.Server("/api/asks/reading").ShouldBe("{\"left\":0}");
        writer.Server("/api/messages").ShouldContain("\"all\":1350");
    }
}
