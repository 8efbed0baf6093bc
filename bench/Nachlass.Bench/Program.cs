using System.Globalization;
using System.Text;
using Nachlass.Bench;

CultureInfo.CurrentCulture = CultureInfo.InvariantCulture;
if (args is [Importing.Command, var rows])
{
    Importing.Run(int.Parse(rows));
    return;
}
if (args is [Loaded.Making, var empty, var made])
{
    Loaded.Make(empty, int.Parse(made));
    return;
}
if (args is [Loaded.Command, var full, var loaded])
{
    Loaded.Run(full, int.Parse(loaded));
    return;
}
if (args is [Readers.Command, var key, var bytes])
{
    Readers.Run(key, int.Parse(bytes));
    return;
}
if (args is [Readers.Command])
{
    Console.WriteLine(Readers.Measure());
    return;
}
if (args is [Typing.Command])
{
    Console.WriteLine(Typing.Measure());
    return;
}
if (args is [Pairs.Command, .. var real])
{
    Console.WriteLine(Pairs.Measure(real is [var file] ? file : null));
    return;
}
if (args is [RealText.Command, var path])
{
    Console.WriteLine(RealText.Measure(path));
    return;
}
if (args is [Choosing.Command, var ideas, .. var only])
{
    Console.WriteLine(Choosing.Measure(int.Parse(ideas), isOnlyTimes: only is ["times"]));
    return;
}
if (args is [Proposing.Command, var proposed])
{
    Console.WriteLine(Proposing.Measure(int.Parse(proposed)));
    return;
}
if (args is [SaidAlready.Command])
{
    Console.WriteLine(SaidAlready.Measure(SaidAlready.DemoPapers));
    return;
}
if (args is [Outlining.Command])
{
    Console.WriteLine(Outlining.Measure());
    return;
}
if (args is [Planning.Command])
{
    Console.WriteLine(Planning.Measure());
    return;
}
if (args is [Dropping.Command])
{
    Console.WriteLine(Dropping.Measure());
    return;
}
if (args is [Cataloguing.Command])
{
    Console.WriteLine(Cataloguing.Measure());
    return;
}
if (args is [WordVectors.Command, var vectors, var wordNet, var small])
{
    WordVectors.Make(vectors, wordNet, small);
    return;
}
if (args is [SendingLetters.Command])
{
    Console.WriteLine(await SendingLetters.Measure());
    return;
}
if (args is [Asking.Command, .. var told])
{
    Console.WriteLine(Asking.Measure(isTold: told is ["told"]));
    return;
}
if (args is [Writing.Command])
{
    Console.WriteLine(Writing.Measure());
    return;
}
if (args is ["labelled", var slips])
{
    Console.WriteLine(Labelled.Measure(int.Parse(slips)));
    return;
}
int[] sizes = args.Length > 0 ? [.. args.Select(int.Parse)] : [1_000, 10_000, 100_000];
var table = new StringBuilder();
Dictionary<string, double>? smaller = null;
var sizeBefore = 0;
foreach (var size in sizes)
{
    var measured = Measuring.Papers(size);
    table
        .AppendLine()
        .AppendLine(CultureInfo.InvariantCulture, $"## {size:N0} slips")
        .AppendLine()
        .AppendLine("| what | median | p95 | reference | its median | ratio | growth |")
        .AppendLine("| --- | ---: | ---: | --- | ---: | ---: | ---: |");
    foreach (var m in measured)
    {
        var growth =
            smaller is not null && smaller.TryGetValue(m.What, out var before) ? $"×{m.Median / before:0.0} for ×{size / sizeBefore}" : "";
        table.AppendLine(
            CultureInfo.InvariantCulture,
            $"| {m.What} | {m.Median:0.00} ms | {m.P95:0.00} ms | {m.Reference.What} | {m.Reference.Median:0.00} ms | "
                + $"×{m.Median / m.Reference.Median:0.00} | {growth} |"
        );
    }
    (smaller, sizeBefore) = (measured.ToDictionary(m => m.What, m => m.Median), size);
}
table
    .AppendLine()
    .AppendLine("## How often advice is right")
    .AppendLine()
    .AppendLine(
        "Made slips whose topics carry three words in ten; copies with between one word in twenty and two in five changed, and "
            + "slips that take over"
    )
    .AppendLine("a third of another as decoys.")
    .AppendLine()
    .AppendLine(
        "| slips | first guess of a topic | among the first three | most frequent topic | three most frequent | figure against "
            + "share right | copies: precision | recall |"
    )
    .AppendLine("| ---: | ---: | ---: | ---: | ---: | ---: | ---: | ---: |");
foreach (var size in sizes)
{
    var q = Labelled.Measure(size);
    table.AppendLine(
        CultureInfo.InvariantCulture,
        $"| {q.Slips:N0} | {q.First:P1} | {q.FirstThree:P1} | {q.Baseline:P1} | {q.BaselineThree:P1} | ±{q.CalibrationError:P1} | "
            + $"{q.Precision:P1} | {q.Recall:P1} |"
    );
}
foreach (var count in sizes.Where(size => size >= 10_000))
{
    var import = Importing.Measure(count);
    table
        .AppendLine()
        .AppendLine(CultureInfo.InvariantCulture, $"## Bringing in a table of {count:N0} rows")
        .AppendLine()
        .AppendLine("| what | time | reference | its time | ratio |")
        .AppendLine("| --- | ---: | --- | ---: | ---: |")
        .AppendLine(
            CultureInfo.InvariantCulture,
            $"| preview: read, recognised, compared with what is here | {import.Preview:0.0} s | the same rows inserted, bare "
                + $"SQLite | {import.Bare:0.0} s | ×{import.Preview / import.Bare:0.00} |"
        )
        .AppendLine(
            CultureInfo.InvariantCulture,
            $"| bringing it in, as one step that can be undone | {import.Import:0.0} s | the same rows inserted, bare SQLite | "
                + $"{import.Bare:0.0} s | ×{import.Import / import.Bare:0.00} |"
        )
        .AppendLine(
            CultureInfo.InvariantCulture,
            $"| taking it back | {import.Undo:0.0} s | the same rows inserted, bare SQLite | {import.Bare:0.0} s | "
                + $"×{import.Undo / import.Bare:0.00} |"
        )
        .AppendLine()
        .AppendLine(
            CultureInfo.InvariantCulture,
            $"The process held {import.ImportingMegabytes} MB at most while it brought them in, and {import.PeakMegabytes} MB once "
                + $"all of them were compared with all others."
        );
}
table.Append(Choosing.Measure(sizes[^1]));
table.Append(Proposing.Measure(sizes[^1]));
table.Append(SaidAlready.Measure(SaidAlready.DemoPapers));
table.Append(Outlining.Measure());
table.Append(Writing.Measure());
table.Append(Planning.Measure());
table.Append(Cataloguing.Measure());
table.AppendLine().Append(await SendingLetters.Measure());
table.Append(Dropping.Measure());
LoadedPapers? lighter = null;
foreach (var count in sizes.Where(size => size >= 10_000))
{
    var papers = Loaded.Measure(count);
    table
        .AppendLine()
        .AppendLine(
            CultureInfo.InvariantCulture,
            $"## {papers.Slips:N0} slips, {papers.Sources:N0} sources with whole texts, {papers.Words / 1e6:0.0} million words"
        )
        .AppendLine()
        .AppendLine("| what | median | p95 | the least SQL for it | ratio | to a plain file scan | growth |")
        .AppendLine("| --- | ---: | ---: | ---: | ---: | ---: | ---: |");
    foreach (var line in papers.Lines)
    {
        var growth = lighter?.Lines.FirstOrDefault(l => l.What == line.What) is { } before
            ? $"×{line.Median / before.Median:0.0} for ×{papers.Slips / lighter.Slips}"
            : "";
        var bare = line.Bare is { } least
            ? string.Create(CultureInfo.InvariantCulture, $"{least:0.0} ms | ×{line.Median / least:0.00}")
            : "none would do | ";
        table.AppendLine(
            CultureInfo.InvariantCulture,
            $"| {line.What} | {line.Median:0.0} ms | {line.P95:0.0} ms | " + $"{bare} | ×{line.Median / papers.Scan:0.000} | {growth} |"
        );
    }
    table
        .AppendLine()
        .AppendLine(
            CultureInfo.InvariantCulture,
            $"""
            Looking for one word in a plain file of all these texts takes {papers.Scan:0} ms.
            The index of near texts was rebuilt from the database in {papers.Rebuild:0.0} s;
            a find meanwhile took {papers.During:0.0} ms at the 95th percentile.
            The process held {papers.Own} MB of its own afterwards, and had {papers.Mapped} MB of files mapped in beside them.
            """
        );
    lighter = papers;
}
if (args.Length == 0)
{
    table.AppendLine(Readers.Measure());
    table.AppendLine(Typing.Measure());
}
var labelled = Environment.GetEnvironmentVariable("NACHLASS_TEXTS") is { Length: > 0 } given ? given : null;
if (labelled is not null)
    table.AppendLine(RealText.Measure(labelled));
if (args.Length == 0)
    table.AppendLine("## What readers ask for\n").AppendLine(Asking.Measure(isTold: false));
if (args.Length == 0)
    table.AppendLine("## Passages set against each other\n").AppendLine(Pairs.Measure(labelled));
Console.WriteLine(table);

// Only a whole run is worth keeping.
var docs = Path.Combine(Environment.CurrentDirectory, "docs");
var memory = GC.GetGCMemoryInfo().TotalAvailableMemoryBytes >> 30;
if (args.Length == 0 && Directory.Exists(docs))
    File.WriteAllText(
        Path.Combine(docs, "performance.md"),
        $"""
        # Performance

        Measured by `make bench` on {DateTime.Now:yyyy-MM-dd}, on {Environment.ProcessorCount} cores and {memory} GiB of memory.
        Made papers: slips of 12 to 60 words from a
        vocabulary of 20,000 words whose frequency follows Zipf's law, each under one of 60 topics, one in fifty waiting; one piece of
        about 1,400 words. Times are the server's own, without HTTP. Every reference runs in the same process, on the same disk, over the
        same texts, and does the least that would give the same answer: *bare SQLite* is the same table, indexes and full-text index
        through ADO, without undo, history, topics or links; *a plain scan* reads the texts from files, a hundred
        in each, and looks at every word.
        {table}
        """.ReplaceLineEndings("\n")
    );
