using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;
using Nachlass.Core.Papers;

namespace Nachlass.Core.Text;

/// <summary>How a column of a table is set.</summary>
public enum ColumnSet
{
    AsItComes,
    Left,
    Middle,
    Right,
}

/// <summary>A table of a Markdown text (GitHub Flavored Markdown, 4.10).</summary>
/// <param name="Rows">The first names the columns; all have as many cells.</param>
/// <param name="Columns">How each is set.</param>
public sealed partial record MarkdownTable(IReadOnlyList<IReadOnlyList<string>> Rows, IReadOnlyList<ColumnSet> Columns)
{
    public const int MostRows = 2_000,
        MostColumns = 60,
        Longest = 500_000;

    /// <summary>A table from rows as they come: short ones are filled up, and a table always has a first row.</summary>
    /// <exception cref="BadInputException">It has too many rows or columns.</exception>
    public static MarkdownTable Of(IEnumerable<IReadOnlyList<string>> rows, IReadOnlyList<ColumnSet>? columns = null)
    {
        var all = rows.ToList();
        var width = Math.Max(1, all.Select(r => r.Count).DefaultIfEmpty(0).Max());
        if (all.Count > MostRows || width > MostColumns)
            throw new BadInputException("rows", $"A table has {MostRows:N0} rows and {MostColumns} columns at most.");
        if (all.Count == 0)
            all.Add([]);
        return new MarkdownTable(
            [.. all.Select(r => (IReadOnlyList<string>)[.. Enumerable.Range(0, width).Select(i => i < r.Count ? Clean(r[i]) : "")])],
            [.. Enumerable.Range(0, width).Select(i => columns is not null && i < columns.Count ? columns[i] : ColumnSet.AsItComes)]
        );
    }

    /// <summary>A cell is one line.</summary>
    private static string Clean(string? cell) => Breaks().Replace(cell ?? "", " ").Trim();

    /// <summary>Reads a table from what was written or pasted: a Markdown table, or cells of a spreadsheet with tabs between.</summary>
    public static MarkdownTable Read(string text)
    {
        if (Check.Length("text", text, Longest).Contains('\t', StringComparison.Ordinal))
            return Of(Cells(text));
        var lines = text.ReplaceLineEndings("\n").Split('\n').Where(l => l.Trim().Length > 0).Select(Row).ToList();
        if (lines.Count > 1 && lines[1].Count > 0 && lines[1].All(c => Ruling().IsMatch(c)))
            return Of(lines.Where((_, at) => at != 1), [.. lines[1].Select(Set)]);
        return Of(lines);
    }

    private static List<string> Row(string line)
    {
        var trimmed = line.Trim();
        if (trimmed.StartsWith('|'))
            trimmed = trimmed[1..];
        var cells = new List<string>();
        var cell = new StringBuilder();
        for (var i = 0; i < trimmed.Length; i++)
            if (trimmed[i] == '\\' && i + 1 < trimmed.Length && trimmed[i + 1] == '|')
                cell.Append(trimmed[++i]);
            else if (trimmed[i] == '|')
            {
                cells.Add(cell.ToString().Trim());
                cell.Clear();
            }
            else
                cell.Append(trimmed[i]);
        if (cell.ToString().Trim().Length > 0 || cells.Count == 0)
            cells.Add(cell.ToString().Trim());
        return cells;
    }

    private static ColumnSet Set(string ruling) =>
        (ruling.StartsWith(':'), ruling.EndsWith(':')) switch
        {
            (true, true) => ColumnSet.Middle,
            (true, false) => ColumnSet.Left,
            (false, true) => ColumnSet.Right,
            _ => ColumnSet.AsItComes,
        };

    /// <summary>Rows as spreadsheets put them on the clipboard: tabs between cells, quotation marks round one that holds tabs or
    /// lines.</summary>
    private static List<List<string>> Cells(string text)
    {
        var rows = new List<List<string>> { new() };
        var cell = new StringBuilder();
        var (quoted, begun) = (false, false);
        for (var i = 0; i < text.Length; i++)
        {
            var c = text[i];
            if (quoted)
            {
                if (c == '"' && i + 1 < text.Length && text[i + 1] == '"')
                    cell.Append(text[++i]);
                else if (c == '"')
                    quoted = false;
                else
                    cell.Append(c);
            }
            else if (c == '"' && !begun)
                (quoted, begun) = (true, true);
            else if (c is '\t' or '\n')
            {
                rows[^1].Add(cell.ToString());
                cell.Clear();
                begun = false;
                if (c == '\n')
                    rows.Add([]);
            }
            else if (c != '\r')
            {
                cell.Append(c);
                begun = true;
            }
        }
        if (cell.Length > 0 || rows[^1].Count > 0)
            rows[^1].Add(cell.ToString());
        if (rows[^1].Count == 0)
            rows.RemoveAt(rows.Count - 1);
        return rows;
    }

    /// <summary>The table as Markdown, its columns of even width so that it reads as one in a plain text too.</summary>
    public string Write()
    {
        var cells = Rows.Select(r => r.Select(c => Clean(c).Replace("|", "\\|", StringComparison.Ordinal)).ToList()).ToList();
        var widths = Enumerable.Range(0, Columns.Count).Select(i => Math.Max(3, cells.Max(r => Length(r[i])))).ToList();
        var lines = cells.Select(r => "| " + string.Join(" | ", r.Select((c, i) => Padded(c, widths[i], Columns[i]))) + " |").ToList();
        lines.Insert(1, "| " + string.Join(" | ", Columns.Select((c, i) => Ruled(c, widths[i]))) + " |");
        return string.Join('\n', lines);
    }

    private static int Length(string cell) => new StringInfo(cell).LengthInTextElements;

    private static string Padded(string cell, int width, ColumnSet set)
    {
        var room = width - Length(cell);
        var before = set switch
        {
            ColumnSet.Right => room,
            ColumnSet.Middle => room / 2,
            _ => 0,
        };
        return new string(' ', before) + cell + new string(' ', room - before);
    }

    private static string Ruled(ColumnSet set, int width) =>
        set switch
        {
            ColumnSet.Left => ":" + new string('-', width - 1),
            ColumnSet.Right => new string('-', width - 1) + ":",
            ColumnSet.Middle => ":" + new string('-', width - 2) + ":",
            _ => new string('-', width),
        };

    [GeneratedRegex(@"^:?-+:?$")]
    private static partial Regex Ruling();

    [GeneratedRegex(@"\s*[\r\n]+\s*")]
    private static partial Regex Breaks();
}
