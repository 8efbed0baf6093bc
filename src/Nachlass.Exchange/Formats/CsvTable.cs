using System.Globalization;
using CsvHelper;
using Nachlass.Core.Capture;
using Nachlass.Exchange.Capture;
using Nachlass.Exchange.Papers;

namespace Nachlass.Exchange.Formats;

/// <summary>Tables: RFC 4180 with commas, or with semicolons or tabs. The first row names the columns.</summary>
public sealed class CsvTable : IFormat, ITable
{
    public string Key => "csv";
    public string Name => "Table (CSV)";

    public bool Recognises(InFile file, string start) => file.Extension is ".csv" or ".tsv";

    public IReadOnlyList<string> Columns(InFile file)
    {
        using var reader = TextIn.Open(file);
        using var csv = CsvReader.Create(reader, Settings);
        return Header(file, csv);
    }

    public IEnumerable<Found> Read(InFile file, ReadAs how)
    {
        using var reader = TextIn.Open(file);
        using var csv = CsvReader.Create(reader, Settings);
        var columns = Header(file, csv);
        var mapping = ColumnMapping.For(columns, how.Tables);
        var at = columns.Select((name, i) => (name, i)).GroupBy(c => c.name).ToDictionary(g => g.Key, g => g.First().i);
        while (Next(file, csv))
        {
            // What stands there is only needed where something is wrong with it.
            var line = (int)csv.LineNumber;
            if (Enumerable.Range(0, csv.FieldCount).All(csv.IsEmpty))
                continue;
            if (csv.FieldCount != columns.Count)
                yield return new Found.Unread(
                    line,
                    $"it has {csv.FieldCount} {(csv.FieldCount == 1 ? "field" : "fields")} where the first row has {columns.Count}.",
                    Raw(csv)
                );
            else
            {
                var found = mapping.Row(line, "", column => at.TryGetValue(column, out var i) ? Words(csv.GetString(i)) : "");
                yield return found is Found.Unread unread ? unread with { Raw = Raw(csv) } : found;
            }
        }
    }

    private static string Raw(CsvReader csv)
    {
        var raw = System.Text.Encoding.UTF8.GetString(csv.RawRecord);
        return raw.Length > 4_000 ? raw[..4_000] : raw;
    }

    private static bool Next(InFile file, CsvReader csv)
    {
        try
        {
            return TextIn.Guarded(file.Name, csv.Read);
        }
        catch (CsvFormatException error)
        {
            throw new UnreadableFileException(
                file.Name,
                $"the field that begins near line {Math.Max(1, error.LineNumber)} is never closed, or the row is larger than 2 MiB."
            );
        }
    }

    private static List<string> Header(InFile file, CsvReader csv)
    {
        if (!Next(file, csv))
            throw new UnreadableFileException(file.Name, "the table is empty.");
        if (csv.FieldCount > 200)
            throw new UnreadableFileException(file.Name, "it has more than 200 columns.");
        List<string> columns = [.. Enumerable.Range(0, csv.FieldCount).Select(i => csv.GetString(i).Trim())];
        for (var i = 0; i < columns.Count; i++)
            if (columns[i].Length == 0)
                columns[i] = $"column {i + 1}";
        return columns;
    }

    private static readonly CsvReaderOptions Settings = new()
    {
        HasHeader = false,
        SkipEmptyLines = true,
        TrackLineNumbers = true,
        MaxRecordSize = 2 << 20,
        OnMalformedRecord = record =>
        {
            // A quotation mark that is never closed swallows all rows after it; nothing of the file can be trusted then.
            if (record.Reason == CsvMalformedReason.UnterminatedQuote)
                throw new CsvFormatException("unterminated");
        },
    };

    /// <summary>Writes slips as a table that <see cref="Read"/> gives back.</summary>
    public static void Write(TextWriter into, IEnumerable<(Slip Slip, Core.Sources.Source? Source)> slips)
    {
        using var csv = CsvWriter.Create(into, CsvWriterOptions.Default, leaveOpen: true);
        csv.WriteRecord([.. SlipTable.Columns]);
        foreach (var (slip, source) in slips)
            csv.WriteRecord([.. SlipTable.Row(slip, source).Select(field => NoFormula(field.Value))]);
    }

    /// <summary>Writes any table: a row of column names, then the rows.</summary>
    public static string Write(IReadOnlyList<string> columns, IEnumerable<IReadOnlyList<string>> rows)
    {
        using var into = new StringWriter();
        using (var csv = CsvWriter.Create(into, CsvWriterOptions.Default, leaveOpen: true))
        {
            csv.WriteRecord([.. columns]);
            foreach (var row in rows)
                csv.WriteRecord([.. row.Select(NoFormula)]);
        }
        return into.ToString();
    }

    /// <summary>A cell that a spreadsheet would take for a formula begins with an apostrophe, which is taken away again when it comes
    /// in.</summary>
    private static string NoFormula(string cell) => BeginsFormula(cell.AsSpan().TrimStart('\'')) ? "'" + cell : cell;

    private static string Words(string cell) => cell.StartsWith('\'') && BeginsFormula(cell.AsSpan().TrimStart('\'')) ? cell[1..] : cell;

    private static bool BeginsFormula(ReadOnlySpan<char> cell) => cell is ['=' or '+' or '-' or '@' or '\t' or '\r', ..];
}

/// <summary>A format whose columns the writer may say the meaning of.</summary>
public interface ITable
{
    /// <exception cref="UnreadableFileException">There are none.</exception>
    IReadOnlyList<string> Columns(InFile file);
}

/// <summary>Slips as rows of a table.</summary>
internal static class SlipTable
{
    public static readonly IReadOnlyList<string> Columns =
    [
        "number",
        "text",
        "kind",
        "state",
        "topics",
        "pull",
        "effort",
        "source",
        "creators",
        "address",
        "locator",
        "caught",
    ];

    public static IEnumerable<(string Column, string Value)> Row(Slip slip, Core.Sources.Source? source) =>
        Columns.Zip(
            (string[])
                [
                    slip.Number.ToString(),
                    slip.Text,
                    Word(slip.Kind),
                    Word(slip.State),
                    string.Join("; ", slip.Topics.Select(t => t.Name)),
                    Step(slip.Pull),
                    Step(slip.Effort),
                    source?.Title ?? "",
                    source?.Creators ?? "",
                    source?.Address ?? "",
                    slip.Locator,
                    slip.CaughtAt.UtcDateTime.ToString("yyyy-MM-ddTHH:mm:ss.fffZ", CultureInfo.InvariantCulture),
                ]
        );

    private static string Word<T>(T value)
        where T : struct, Enum => value.ToString().ToLowerInvariant();

    private static string Step(int? step) => step?.ToString(CultureInfo.InvariantCulture) ?? "";
}
