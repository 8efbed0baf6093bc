using CsCheck;
using Nachlass.Core.Sources;

namespace Nachlass.Core.Tests.Sources;

public class PersonNameTests
{
    [Theory]
    [InlineData("Brandt, H.", "Brandt", "H.")]
    [InlineData("Odile Marchetti", "Marchetti", "Odile")]
    [InlineData("Lena van der Pol", "van der Pol", "Lena")]
    [InlineData("Ferry wardens of Ostrey", "Ferry wardens of Ostrey", "")]
    [InlineData("Maudlin", "Maudlin", "")]
    [InlineData("Depot 4", "Depot 4", "")]
    [InlineData("  Ruth   Adeyemi ", "Adeyemi", "Ruth")]
    public void A_name_is_read_in_its_parts(string typed, string family, string given) =>
        PersonName.Read(typed).ShouldBe(new PersonName(family, given));

    [Fact]
    public void A_name_is_sorted_and_spoken() =>
        PersonName
            .Read("Lena van der Pol")
            .ShouldSatisfyAllConditions(n => n.Sorted.ShouldBe("van der Pol, Lena"), n => n.Spoken.ShouldBe("Lena van der Pol"));

    [Fact]
    public void Names_written_read_back_the_same()
    {
        var word = Gen.OneOf("Brandt", "Marchetti", "van", "der", "Pol", "Ruth", "O’Neill", "Ä.", "wardens", "of");
        Gen.Select(word.Array[1, 4], word.Array[0, 2])
            .Select(
                (family, given) => given.Length == 0 ? string.Join(' ', family) : $"{string.Join(' ', family)}, {string.Join(' ', given)}"
            )
            .Array[0, 4]
            .Sample(names =>
            {
                var read = PersonName.ReadAll(string.Join("; ", names));
                // A body or a single name has no comma to keep it whole, and may be parted once; after that it stays.
                var again = PersonName.ReadAll(PersonName.Write(read));
                PersonName.ReadAll(PersonName.Write(again)).ShouldBe(again);
                again.Count.ShouldBe(names.Length);
            });
    }
}
