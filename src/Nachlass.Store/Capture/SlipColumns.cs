using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Capture;

/// <summary>The small columns of one slip.</summary>
/// <param name="HeldUntil">Day number; 0 for none.</param>
/// <param name="Pull">1 to 5; 0 when it was not said.</param>
/// <param name="Effort">1 to 5; 0 when it was not said.</param>
/// <param name="Format">Place in <see cref="Columns.Formats"/>; 0 for none.</param>
/// <param name="Day">Number of the day it was caught on.</param>
/// <param name="Source">The source it is a passage of; 0 for none.</param>
internal readonly record struct SlipColumn(
    bool Exists,
    SlipState State,
    SlipKind Kind,
    int HeldUntil,
    byte Pull,
    byte Effort,
    byte Format,
    int Day,
    int Source
);

/// <summary>The small columns of all slips as they were at one moment; it never changes.</summary>
/// <param name="Slips">By number.</param>
/// <param name="Tags">Slip and topic, by the number of the row; a row that is gone has slip 0.</param>
/// <param name="Used">By number: whether it stands in a piece.</param>
/// <param name="Formats">Keys of formats; the first is empty and stands for none.</param>
internal sealed record Columns(SlipColumn[] Slips, (int Slip, int Topic)[] Tags, bool[] Used, List<string> Formats)
{
    private readonly Lazy<ILookup<int, int>> onTopic = new(() =>
        Tags.Where(t => t.Slip > 0 && Slips[t.Slip].Exists).ToLookup(t => t.Topic, t => t.Slip)
    );
    private readonly Lazy<int> tagged = new(() => Tags.Where(t => t.Slip > 0).Select(t => t.Slip).Distinct().Count());

    /// <summary>The slips that stand under each topic itself.</summary>
    public ILookup<int, int> OnTopic => onTopic.Value;

    /// <summary>The slips under any of some topics, each once.</summary>
    public IEnumerable<int> Under(IEnumerable<int> topics) => topics.SelectMany(topic => OnTopic[topic]).Distinct();

    /// <summary>How many slips have a topic.</summary>
    public int Tagged => tagged.Value;

    public bool IsUsed(int slip) => slip < Used.Length && Used[slip];

    /// <summary>The state on a day: what was held until then waits.</summary>
    public SlipState StateOf(int slip, DateOnly today) =>
        Slips[slip] is { State: SlipState.Held, HeldUntil: > 0 and var until } && until <= today.DayNumber
            ? SlipState.Waiting
            : Slips[slip].State;

    /// <summary>The topics of every slip.</summary>
    public ILookup<int, int> TopicsOf(Func<int, bool> slip) =>
        Tags.Where(t => t.Slip > 0 && slip(t.Slip)).ToLookup(t => t.Slip, t => t.Topic);
}

/// <summary>
/// Keeps the small columns of all slips in memory, so that sums over a hundred thousand read no rows. In step with the papers by the
/// rows that each command touched, so that undo and import need no case of their own. Twenty-eight bytes a slip, eight a topic of one.
/// </summary>
public sealed class SlipColumns : IDisposable
{
    /// <summary>From so many changed rows on, reading all anew is quicker.</summary>
    private const int Many = 2_000;

    private readonly PapersFile papers;
    private readonly Lock gate = new(),
        noted = new();
    private HashSet<int> slips = [],
        tags = [];
    private bool usesChanged;
    private Columns? now;

    public SlipColumns(PapersFile papers)
    {
        this.papers = papers;
        papers.Written += Note;
    }

    /// <summary>Reads them ahead, so that the first who asks doesn't wait.</summary>
    public void Fill() => Now();

    /// <summary>The columns with all that was written by now. For reads only: inside a command they don't hold yet what it did; see
    /// <see cref="Read"/>.</summary>
    internal Columns Now()
    {
        lock (gate)
        {
            HashSet<int> slipsNow,
                tagsNow;
            bool uses;
            lock (noted)
            {
                (slipsNow, tagsNow, uses) = (slips, tags, usesChanged);
                (slips, tags, usesChanged) = ([], [], false);
            }
            var old = now;
            if (old is not null && slipsNow.Count + tagsNow.Count == 0 && !uses)
                return old;
            // Where reading fails the changes would be lost; the next one then reads all.
            now = null;
            // Opened after the changes were noted, so that it sees them; what is written meanwhile is noted again.
            return now = papers.Read(db =>
                old is null || slipsNow.Count + tagsNow.Count > Many ? Read(db) : With(db, old, slipsNow, tagsNow, uses)
            );
        }
    }

    private void Note(Committed done)
    {
        lock (noted)
            foreach (var (table, row) in done.Rows)
                switch (table)
                {
                    case "slip":
                        slips.Add((int)row);
                        break;
                    case "slip_topic":
                        tags.Add((int)row);
                        break;
                    case "material" or "link" or "piece":
                        usesChanged = true;
                        break;
                }
    }

    /// <summary>All of them, read from the file.</summary>
    internal static Columns Read(SqliteConnection db)
    {
        var columns = new Columns(
            new SlipColumn[db.ExecuteScalar<int>("SELECT coalesce(max(number), 0) FROM slip") + 1],
            new (int, int)[db.ExecuteScalar<int>("SELECT coalesce(max(id), 0) FROM slip_topic") + 1],
            UsesIn(db),
            [""]
        );
        using (var reader = db.ExecuteReader($"SELECT {SlipFields} FROM slip"))
            while (reader.Read())
                columns.Slips[reader.GetInt32(0)] = Column(reader, columns.Formats);
        using (var reader = db.ExecuteReader("SELECT id, slip, topic FROM slip_topic"))
            while (reader.Read())
                columns.Tags[reader.GetInt32(0)] = (reader.GetInt32(1), reader.GetInt32(2));
        return columns;
    }

    private static Columns With(SqliteConnection db, Columns old, HashSet<int> slips, HashSet<int> tags, bool uses)
    {
        var next = new Columns(Copied(old.Slips, slips), Copied(old.Tags, tags), uses ? UsesIn(db) : old.Used, [.. old.Formats]);
        foreach (var slip in slips)
            next.Slips[slip] = default;
        foreach (var tag in tags)
            next.Tags[tag] = default;
        using (
            var reader = db.ExecuteReader(
                $"SELECT {SlipFields} FROM slip WHERE number IN (SELECT value FROM json_each(@slips))",
                new { slips = Mapping.List(slips) }
            )
        )
            while (reader.Read())
                next.Slips[reader.GetInt32(0)] = Column(reader, next.Formats);
        using (
            var reader = db.ExecuteReader(
                "SELECT id, slip, topic FROM slip_topic WHERE id IN (SELECT value FROM json_each(@tags))",
                new { tags = Mapping.List(tags) }
            )
        )
            while (reader.Read())
                next.Tags[reader.GetInt32(0)] = (reader.GetInt32(1), reader.GetInt32(2));
        return next;
    }

    private static T[] Copied<T>(T[] old, HashSet<int> changed)
    {
        if (changed.Count == 0)
            return old;
        var next = new T[Math.Max(old.Length, changed.Max() + 1)];
        old.CopyTo(next, 0);
        return next;
    }

    private const string SlipFields = "number, state, kind, held_until, pull, effort, format, day, source";

    private static SlipColumn Column(System.Data.IDataRecord row, List<string> formats)
    {
        var format = 0;
        if (!row.IsDBNull(6) && (format = formats.IndexOf(row.GetString(6))) < 0)
        {
            format = formats.Count;
            formats.Add(row.GetString(6));
        }
        return new SlipColumn(
            true,
            Enum.Parse<SlipState>(row.GetString(1), true),
            Enum.Parse<SlipKind>(row.GetString(2), true),
            row.IsDBNull(3) ? 0 : Mapping.Day(row.GetString(3))!.Value.DayNumber,
            row.IsDBNull(4) ? (byte)0 : row.GetByte(4),
            row.IsDBNull(5) ? (byte)0 : row.GetByte(5),
            (byte)format,
            Mapping.Day(row.GetString(7))!.Value.DayNumber,
            row.IsDBNull(8) ? 0 : row.GetInt32(8)
        );
    }

    /// <summary>The same as <see cref="SlipRows.Used"/>, for all at once.</summary>
    private static bool[] UsesIn(SqliteConnection db)
    {
        var slips = db.Query<int>(
                """
                SELECT slip FROM material WHERE slip IS NOT NULL AND piece NOT IN (SELECT number FROM piece WHERE trashed_at IS NOT NULL)
                UNION SELECT to_number FROM link WHERE to_kind = 'slip' AND from_kind = 'piece'
                    AND to_number <= (SELECT max(number) FROM slip)
                    AND from_number NOT IN (SELECT number FROM piece WHERE trashed_at IS NOT NULL)
                """
            )
            .AsList();
        var used = new bool[slips.Count == 0 ? 0 : slips.Max() + 1];
        foreach (var slip in slips)
            used[slip] = true;
        return used;
    }

    public void Dispose() => papers.Written -= Note;
}
