using Nachlass.Core.Papers;

namespace Nachlass.Core.Tests.Papers;

public class OwnKeyTests
{
    [Theory]
    [InlineData("k")]
    [InlineData("?")]
    [InlineData("Ctrl+Shift+Enter")]
    [InlineData("Alt+ArrowUp")]
    [InlineData("Ctrl++")]
    public void A_key_is_a_sign_or_a_name_with_what_is_held_beside_it(string keys) =>
        new OwnKey("sift.keep", keys).Checked().Keys.ShouldBe(keys);

    [Theory]
    [InlineData("sift.keep", "", "keys")]
    [InlineData("sift.keep", "Shift+Ctrl+k", "keys")]
    [InlineData("sift.keep", "kk", "keys")]
    [InlineData("sift", "k", "action")]
    [InlineData("Sift.keep", "k", "action")]
    public void What_is_none_is_refused_by_its_field(string action, string keys, string field) =>
        Should.Throw<BadInputException>(() => new OwnKey(action, keys).Checked()).Field.ShouldBe(field);
}
