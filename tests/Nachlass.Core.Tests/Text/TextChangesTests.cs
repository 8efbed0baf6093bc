using CsCheck;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;

namespace Nachlass.Core.Tests.Text;

public sealed class TextChangesTests
{
    [Fact]
    public void Changes_in_order_give_the_next_text() =>
        (
            from kept in Gen.String[0, 6].Array[1, 5]
            from gone in Gen.String[0, 4].Array[5]
            from come in Gen.String[0, 4].Array[5]
            select (kept, gone, come)
        ).Sample(any =>
        {
            var changes = new List<TextChange>();
            var (old, now) = ("", "");
            for (var i = 0; i < any.kept.Length; i++)
            {
                (old, now) = (old + any.kept[i], now + any.kept[i]);
                changes.Add(new TextChange(old.Length, old.Length + any.gone[i].Length, any.come[i]));
                (old, now) = (old + any.gone[i], now + any.come[i]);
            }
            TextChanges.Apply(old, changes).ShouldBe(now);
            TextChanges.Apply(old, []).ShouldBe(old);
        });

    [Theory]
    [InlineData(-1, 0)]
    [InlineData(2, 1)]
    [InlineData(0, 4)]
    public void A_change_that_does_not_fit_is_refused(int from, int to) =>
        Should.Throw<BadInputException>(() => TextChanges.Apply("abc", [new TextChange(from, to, "x")])).Field.ShouldBe("changes");

    [Fact]
    public void Changes_over_each_other_are_refused() =>
        Should.Throw<BadInputException>(() => TextChanges.Apply("abcd", [new(0, 3, ""), new(2, 4, "")]));

    // Reference values of FNV-1a with 32 bits, of single octets, which ASCII is in UTF-16 units too.
    [Theory]
    [InlineData("", 0x811c9dc5)]
    [InlineData("a", 0xe40c292c)]
    [InlineData("foobar", 0xbf9cf968)]
    public void The_hash_is_FNV_1a(string text, uint hash) => unchecked((uint)TextChanges.Hash(text)).ShouldBe(hash);
}
