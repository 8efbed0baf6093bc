using System.Text;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Sources;
using Nachlass.Core.Topics;
using Nachlass.Exchange.Capture;
using Nachlass.Exchange.Formats;

namespace Nachlass.Store.Tests.Formats;

/// <summary>Files that come in, in a folder of their own.</summary>
internal sealed class Incoming : IDisposable
{
    public static readonly DateOnly Today = new(2026, 11, 24);

    private readonly string folder = Directory.CreateTempSubdirectory("nachlass-in-").FullName;

    public InFile File(string name, byte[] content)
    {
        var path = Path.Combine(folder, Guid.NewGuid().ToString("N"));
        System.IO.File.WriteAllBytes(path, content);
        return new InFile(name, path);
    }

    public InFile File(string name, string content) => File(name, Encoding.UTF8.GetBytes(content));

    public Parcel Parcel(params (string Name, byte[] Content)[] files)
    {
        var parcel = new Parcel(Path.Combine(folder, Guid.NewGuid().ToString("N")));
        foreach (var (name, content) in files)
            parcel.Add(name, new MemoryStream(content));
        return parcel;
    }

    /// <summary>What a file of this name and content is read as, by the format that recognises it.</summary>
    public IReadOnlyList<Found> Read(string name, string content, DocumentsAs? documents = null) => Read(File(name, content), documents);

    public static IReadOnlyList<Found> Read(InFile file, DocumentsAs? documents = null) =>
        [
            .. FormatsIn
                .Recognise(file)
                .ShouldNotBeNull($"nothing recognises {file.Name}")
                .Read(file, new ReadAs(Today, Documents: documents)),
        ];

    public static IEnumerable<FoundSlip> Slips(IEnumerable<Found> found) => found.OfType<Found.OfSlip>().Select(f => f.Slip);

    public static IEnumerable<FoundSource> Sources(IEnumerable<Found> found) => found.OfType<Found.OfSource>().Select(f => f.Source);

    public static IEnumerable<Found.Unread> Unread(IEnumerable<Found> found) => found.OfType<Found.Unread>();

    /// <summary>Slips and sources to write out, from texts that formats find difficult.</summary>
    public static Slip Slip(int number, string text, params string[] topics) =>
        new()
        {
            Number = SlipNumber.Of(number),
            Text = text,
            Kind = (SlipKind)(number % 6),
            CaughtAt = new DateTimeOffset(2026, 3, 1 + number % 28, 9, 30, 0, TimeSpan.Zero),
            Pull = number % 6 == 0 ? null : number % 6,
            Topics = [.. topics.Select((t, i) => new TopicMark(TopicNumber.Of(i + 1), t, TopicColour.Teal))],
        };

    public static Source Source(int number, SourceType type, string words, IReadOnlyDictionary<string, string>? details = null) =>
        new()
        {
            Number = SourceNumber.Of(number),
            Type = type,
            Title = words,
            Creators = "Brandt, H.; Parish of Low Ostrey",
            Container = type is SourceType.Message or SourceType.Observation ? "" : "Part of " + words,
            Date = "1789-10",
            Address = $"https://tavle.example/{number}?a=1&b=2",
            Language = "en",
            Comments = "It says: " + words,
            Summary = words,
            Details = details ?? new Dictionary<string, string>(),
            Topics =
            [
                new TopicMark(TopicNumber.Of(1), "tolls", TopicColour.Teal),
                new TopicMark(TopicNumber.Of(2), "low water", TopicColour.Plum),
            ],
        };

    public void Dispose() => Directory.Delete(folder, recursive: true);
}
