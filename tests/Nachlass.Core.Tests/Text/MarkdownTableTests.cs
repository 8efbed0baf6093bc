using CsCheck;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;

namespace Nachlass.Core.Tests.Text;

public sealed class MarkdownTableTests
{
    [Fact]
    public void Columns_are_of_even_width_and_set_as_they_were()
    {
        var table = MarkdownTable.Read("|shot|seconds|\n|:-|--:|\n|the bell, wide|4|\n|a \\| b");
        table.Rows.ShouldBe([
            ["shot", "seconds"],
            ["the bell, wide", "4"],
            ["a | b", ""],
        ]);
        table
            .Write()
            .ShouldBe(
                "| shot           | seconds |\n| :------------- | ------: |\n| the bell, wide |       4 |\n| a \\| b         |         |"
            );
    }

    [Fact]
    public void Cells_of_a_spreadsheet_come_as_they_are_with_lines_and_quotation_marks() =>
        MarkdownTable
            .Read("shot\tsays\r\n1\t\"two\nlines, \"\"quoted\"\"\"\r\n2\t\r\n")
            .Rows.ShouldBe([
                ["shot", "says"],
                ["1", "two lines, \"quoted\""],
                ["2", ""],
            ]);

    [Fact]
    public void Nothing_is_a_table_of_one_cell_and_too_much_is_refused()
    {
        MarkdownTable.Read("").Write().ShouldBe("|     |\n| --- |");
        Should
            .Throw<BadInputException>(() => MarkdownTable.Of([Enumerable.Repeat("x", MarkdownTable.MostColumns + 1).ToArray()]))
            .Field.ShouldBe("rows");
    }

    private static readonly Gen<string> Cell = Gen.String[Gen.Char["ab|\\ \n\"-:é"], 0, 8];

    [Fact]
    public void What_is_written_is_read_back() =>
        (from rows in Cell.Array[1, 4].Array[1, 5] from sets in Gen.Enum<ColumnSet>().Array[0, 4] select (rows, sets)).Sample(t =>
        {
            // A backslash right before a line between cells is Markdown's own sign and can't be kept apart from it.
            var rows = t.rows.Select(r => r.Select(c => c.Replace("\\", "", StringComparison.Ordinal)).ToArray()).ToArray();
            var table = MarkdownTable.Of(rows, t.sets);
            var again = MarkdownTable.Read(table.Write());
            again.Rows.ShouldBe(table.Rows);
            again.Columns.ShouldBe(table.Columns);
        });
}
