using CsCheck;
using Nachlass.Core.Text;

namespace Nachlass.Core.Tests.Text;

public class FollowingTests
{
    private static readonly Gen<string> Paragraph = Gen.OneOf("bell", "toll", "bread", "flood", "weir", "rope", "glove", "coin")
        .Array[3, 9]
        .Select(words => string.Join(' ', words));

    [Fact]
    public void A_paragraph_that_still_stands_is_itself_however_the_others_read() =>
        Paragraph.List[1, 6].Sample(paragraphs => paragraphs.All(p => Following.Of(p, paragraphs) == p));

    [Fact]
    public void What_is_found_shares_its_words() =>
        Gen.Select(Paragraph, Paragraph.List[0, 6])
            .Sample(
                (remembered, now) =>
                    Following.Of(remembered, now) is not { } found || found.Split(' ').Intersect(remembered.Split(' ')).Any()
            );

    [Fact]
    public void A_paragraph_rewritten_in_half_is_found_and_one_that_is_gone_is_not()
    {
        string[] now = ["Ropes were laid left-handed here.", "On flood days the ferrymen took loaves instead of coin."];
        Following.Of("On flood days the ferrymen were paid in bread.", now).ShouldBe(now[1]);
        Following.Of("Nobody has counted the eels.", now).ShouldBeNull();
        Following.Of("anything", []).ShouldBeNull();
    }
}
