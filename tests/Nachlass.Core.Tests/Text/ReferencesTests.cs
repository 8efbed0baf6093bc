using CsCheck;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;

namespace Nachlass.Core.Tests.Text;

public class ReferencesTests
{
    private static readonly Gen<string> Inside = Gen.OneOf(
        Gen.OneOf("slip 4", "P 12", "piece 3, The end", "source 61, Dues", "flood marks", "a, b, c", "The price, Loaves"),
        Gen.String[Gen.Char["ab ,19"], 1, 12].Where(t => t.Trim().Length > 0)
    );

    [Fact]
    public void A_reference_is_found_where_it_stands() =>
        Gen.Select(Gen.String[Gen.Char["xy \n."], 0, 10], Inside, Gen.String[Gen.Char["xy \n."], 0, 10])
            .Sample(
                (before, inside, after) =>
                {
                    var found = References.In($"{before}[[{inside}]]{after}").ShouldHaveSingleItem();
                    found.Start.ShouldBe(before.Length);
                    found.Length.ShouldBe(inside.Length + 4);
                    found.Name.ShouldBe(inside.Trim());
                }
            );

    [Fact]
    public void A_text_renamed_to_the_same_names_is_the_same_text() =>
        Inside
            .Array[0, 5]
            .Select(names => string.Join(" and ", names.Select(n => $"[[{n}]]")))
            .Sample(text => References.Renamed(text, inside => inside) == text);

    [Fact]
    public void Every_way_to_part_a_name_puts_it_together_again() =>
        Inside.Sample(name =>
            References
                .WithPart(name)
                .All(way =>
                    way.Part.Length > 0
                    && name.Replace(" ", "", StringComparison.Ordinal)
                        == $"{way.Name},{way.Part}".Replace(" ", "", StringComparison.Ordinal)
                )
        );

    [Fact]
    public void A_part_is_read_only_where_there_can_be_one() =>
        Inside.Sample(name =>
        {
            var read = References.Read(name);
            if (read.Part.Length > 0)
                (read.Thing is { Kind: ThingKind.Piece or ThingKind.Source }).ShouldBeTrue();
        });

    [Fact]
    public void Where_a_reference_leads_has_its_section_in_the_address()
    {
        Reading.AddressOf(References.Read("P 12, The rope breaks")).ShouldBe("/bench/12?section=The%20rope%20breaks");
        Reading.AddressOf(References.Read("P 12")).ShouldBe("/bench/12");
        Reading.AddressOf(References.Read("flood marks")).ShouldBe("/go/flood%20marks");
    }
}
