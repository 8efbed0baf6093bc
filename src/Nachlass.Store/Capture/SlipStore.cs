using Dapper;
using Nachlass.Core.Bench;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Sources;
using Nachlass.Store.Papers;
using Nachlass.Store.Sources;
using Nachlass.Store.Text;
using Nachlass.Store.Topics;

namespace Nachlass.Store.Capture;

/// <summary>A change to a slip; what is not set stays.</summary>
public sealed record SlipChange
{
    public int? Version { get; init; }
    public string? Text { get; init; }
    public SlipKind? Kind { get; init; }
    public Maybe<int?> Pull { get; init; }
    public Maybe<int?> Effort { get; init; }

    /// <summary>Keys of all the formats it would make; empty for none.</summary>
    public IReadOnlyList<string>? Formats { get; init; }

    public Maybe<SourceNumber?> Source { get; init; }
    public string? Locator { get; init; }

    /// <summary>Names of all its topics; one that is new is made.</summary>
    public IReadOnlyList<string>? Topics { get; init; }
}

/// <summary>A slip opened: with its source, its links out, the places that link to it and the pieces it stands in.</summary>
/// <param name="SourceBy">For what somebody wrote: who, by what way and when.</param>
/// <param name="Place">The address of its very place in the source, when it has one.</param>
public sealed record SlipOpened(
    Slip Slip,
    string Html,
    string? SourceTitle,
    string? SourceBy,
    string? Place,
    IReadOnlyList<LinkOut> LinksOut,
    IReadOnlyList<LinkLine> LinkedFrom,
    IReadOnlyList<Standing> Pieces,
    IReadOnlyList<HistoryLine> History
);

/// <summary>A piece that a slip stands in.</summary>
/// <param name="Way">How it stands there: in the text, placed in a section, or loose beside it.</param>
/// <param name="OutOn">When the piece went out; null while it did not.</param>
public sealed record Standing(PieceNumber Piece, string Title, StandingWay Way, string Stage, DateOnly? OutOn);

/// <summary>How a slip stands in a piece.</summary>
public enum StandingWay
{
    Loose,
    Placed,
    Text,
}

/// <summary>A row of <see cref="Standing"/>.</summary>
internal sealed record StandingRow
{
    public PieceNumber Number { get; init; }
    public string Title { get; init; } = "";
    public string Stage { get; init; } = "";
    public DateOnly? OutOn { get; init; }
    public bool Placed { get; init; }
    public bool Said { get; init; }

    public Standing Whole =>
        new(
            Number,
            Title,
            Said ? StandingWay.Text
                : Placed ? StandingWay.Placed
                : StandingWay.Loose,
            Stage,
            OutOn
        );
}

/// <summary>Reads and changes slips.</summary>
public sealed class SlipStore(PapersFile papers, HistoryStore history)
{
    public Slip Get(SlipNumber number) => papers.Read(db => SlipRows.Get(db, number));

    public SlipOpened Open(SlipNumber number)
    {
        var done = history.Of(Reference.To(number));
        return papers.Read(db =>
        {
            var slip = SlipRows.Get(db, number);
            var pieces = db.Query<StandingRow>(
                    """
                    SELECT p.number, p.title, p.stage, p.out_on, max(w.placed) AS placed, max(w.said) AS said FROM (
                        SELECT piece, section IS NOT NULL AS placed, 0 AS said FROM material WHERE slip = @number
                        UNION ALL
                        SELECT from_number, 0, 1 FROM link WHERE to_kind = 'slip' AND to_number = @number AND from_kind = 'piece'
                    ) w JOIN piece p ON p.number = w.piece WHERE p.trashed_at IS NULL GROUP BY p.number ORDER BY p.number
                    """,
                    new { number }
                )
                .Select(row => row.Whole);
            return new SlipOpened(
                slip,
                Core.Text.Reading.Html(Links.Shown(db, slip.Text)),
                slip.Source is { } source ? Links.TitleOf(db, Reference.To(source)) : null,
                slip.Source is { } by ? SourceRows.Get(db, by).SentBy : null,
                slip.Source is { } of ? SourceStore.PlaceOf(slip, SourceRows.Get(db, of).Address) : null,
                Links.From(db, slip.Text),
                Links.To(db, Reference.To(number)),
                [.. pieces],
                done
            );
        });
    }

    /// <summary>Says that a topic that was offered for a slip is not its topic.</summary>
    public Done<Slip> Refuse(SlipNumber number, TopicNumber topic, Once once) =>
        papers.Run(
            $"refused a topic for slip {number}",
            once,
            change =>
            {
                var slip = SlipRows.Get(change.Db, number);
                var name =
                    change.Db.QuerySingleOrDefault<string>(
                        "SELECT name FROM topic WHERE number = @topic AND merged_into IS NULL",
                        new { topic }
                    ) ?? throw new NotThereException($"topic {topic}");
                SlipRows.Refuse(change.Db, number, topic);
                change.What = $"refused {name} for slip {number}";
                return slip;
            }
        );

    /// <summary>Changes a slip.</summary>
    /// <exception cref="StaleException">It was changed elsewhere.</exception>
    public Done<Slip> Edit(SlipNumber number, SlipChange edit, Once once)
    {
        var based = Check.Version(edit.Version);
        var text = edit.Text is null ? null : Check.Text("text", edit.Text, Slip.LongestText);
        Check.Step("pull", edit.Pull.Value);
        Check.Step("effort", edit.Effort.Value);
        var formats = edit.Formats is null ? null : papers.Read(db => Bench.FormatRows.All(db).Keys(edit.Formats));
        var locator = edit.Locator is null ? null : Locator.Read(Check.Length("locator", edit.Locator, Source.LongestField)).Text;
        return papers.Run(
            $"changed slip {number}",
            once,
            change =>
            {
                var slip = SlipRows.Get(change.Db, number);
                if (slip.Version != based)
                    throw new StaleException($"Slip {number}", slip);
                var source = edit.Source.Or(slip.Source);
                if (source is { } s && change.Db.ExecuteScalar<int>("SELECT count(*) FROM source WHERE number = @s", new { s }) == 0)
                    throw new BadInputException("source", $"There is no source {s}.");
                change.Db.Execute(
                    """
                    UPDATE slip SET text = @text, kind = @kind, pull = @pull, effort = @effort, format = @format, source = @source,
                        locator = @locator,
                        version = version + 1 WHERE number = @number
                    """,
                    new
                    {
                        number,
                        text = text ?? slip.Text,
                        kind = (edit.Kind ?? slip.Kind).Kept(),
                        pull = edit.Pull.Or(slip.Pull),
                        effort = edit.Effort.Or(slip.Effort),
                        format = SlipRows.Kept(formats ?? slip.Formats),
                        source,
                        locator = locator ?? slip.Locator,
                    }
                );
                if (edit.Topics is not null)
                {
                    var topics = TopicRows.NumbersFor(change.Db, edit.Topics);
                    SlipRows.SetTopics(change.Db, number, topics);
                    // What was taken off is remembered, so that it is not offered again and near slips learn from it.
                    foreach (var gone in slip.Topics.Select(t => t.Number).Except(topics))
                        SlipRows.Refuse(change.Db, number, gone);
                    change.Db.Execute(
                        "DELETE FROM topic_refusal WHERE slip = @number AND topic IN @topics",
                        new { number, topics = topics.Select(t => t.Value) }
                    );
                }
                if (text is not null)
                    Links.Write(change.Db, Reference.To(number), text);
                return SlipRows.Get(change.Db, number);
            }
        );
    }
}
