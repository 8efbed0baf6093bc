using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Bench.Short;
using Nachlass.Core.Papers;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Bench;

/// <summary>A short post with what it has against its limit.</summary>
/// <param name="Measured">As the format for posts counts; null where it has no limit.</param>
/// <param name="OverFrom">Where it begins to be over its limit, in UTF-16 units; null when it goes in.</param>
public sealed record PostShown(
    PostNumber Number,
    DateOnly Day,
    string Text,
    DateTimeOffset? ReadyAt,
    DateTimeOffset? SentAt,
    int Version,
    Measured? Measured,
    int? OverFrom
);

/// <summary>A short post, or a change to one; what is not set stays.</summary>
public sealed record PostChange(DateOnly? Day = null, string? Text = null, bool? Ready = null, bool? Sent = null, int? Version = null);

/// <summary>Posts as rows.</summary>
internal static class PostRows
{
    private const string Columns = "SELECT number, day, text, ready_at, sent_at, version FROM post";

    public static IReadOnlyList<Post> List(SqliteConnection db, string where, object? arguments) =>
        [.. db.Query<Row>($"{Columns} WHERE {where} ORDER BY number", arguments).Select(r => r.Whole)];

    public static Post Get(SqliteConnection db, PostNumber number) =>
        List(db, "number = @number", new { number }).SingleOrDefault() ?? throw new NotThereException($"post {number}");

    public static void Put(SqliteConnection db, Post post) =>
        db.Execute("INSERT INTO post (number, day, text, ready_at, sent_at) VALUES (@Number, @Day, @Text, @ReadyAt, @SentAt)", post);

    private sealed record Row
    {
        public PostNumber Number { get; init; }
        public DateOnly Day { get; init; }
        public string Text { get; init; } = "";
        public DateTimeOffset? ReadyAt { get; init; }
        public DateTimeOffset? SentAt { get; init; }
        public int Version { get; init; }

        public Post Whole => new(Number, Day, Text, ReadyAt, SentAt, Version);
    }
}

/// <summary>Short posts of the days.</summary>
public sealed class PostStore(PapersFile papers)
{
    /// <summary>The posts of a day in the order they were begun.</summary>
    public IReadOnlyList<PostShown> Of(DateOnly day) => papers.Read(db => Shown(db, PostRows.List(db, "day = @day", new { day })));

    /// <summary>What is ready and waits to be sent, whatever its day, the oldest first.</summary>
    public IReadOnlyList<PostShown> Ready() =>
        papers.Read(db => Shown(db, PostRows.List(db, "ready_at IS NOT NULL AND sent_at IS NULL", null)));

    private static IReadOnlyList<PostShown> Shown(SqliteConnection db, IReadOnlyList<Post> posts)
    {
        var limits = FormatRows.All(db).ForPosts.Limits;
        return [.. posts.Select(p => Shown(p, limits))];
    }

    private static PostShown Shown(SqliteConnection db, Post post) => Shown(db, [post])[0];

    private static PostShown Shown(Post post, FormatLimits limits) =>
        new(
            post.Number,
            post.Day,
            post.Text,
            post.ReadyAt,
            post.SentAt,
            post.Version,
            limits.Part is { } limit ? Measure.Of(post.Text, limit, limits) : null,
            limits.Part is { } part ? ThreadCut.OverFrom(post.Text, "", part, limits) : null
        );

    public Done<PostShown> Add(PostChange made, Once once) =>
        papers.Run(
            "began a post",
            once,
            change =>
            {
                var day = made.Day ?? change.Today;
                if (!Check.IsDay(day))
                    throw new BadInputException("day", "That is no day a sheet is kept for.");
                var text = Check.Length("text", made.Text, Post.LongestText);
                var number = PostNumber.Of(
                    change.Db.ExecuteScalar<int>(
                        "INSERT INTO post (day, text, ready_at) VALUES (@day, @text, @ready) RETURNING number",
                        new
                        {
                            day,
                            text,
                            ready = made.Ready == true ? change.Now : (DateTimeOffset?)null,
                        }
                    )
                );
                return Shown(change.Db, PostRows.Get(change.Db, number));
            }
        );

    public Done<PostShown> Edit(PostNumber number, PostChange edit, Once once)
    {
        var based = Check.Version(edit.Version);
        return papers.Run(
            "changed a post",
            once,
            change =>
            {
                var before = PostRows.Get(change.Db, number);
                if (before.Version != based)
                    throw new StaleException($"The post", Shown(change.Db, before));
                var text = edit.Text is null ? before.Text : Check.Length("text", edit.Text, Post.LongestText);
                if (edit.Ready == true && text.Trim().Length == 0)
                    throw new BadInputException("text", "There is not a word in it yet.");
                change.Db.Execute(
                    "UPDATE post SET text = @text, ready_at = @ready, sent_at = @sent, version = version + 1 WHERE number = @number",
                    new
                    {
                        number,
                        text,
                        ready = Moment(edit.Ready ?? (edit.Sent == true ? true : null), before.ReadyAt, change.Now),
                        sent = Moment(edit.Sent, before.SentAt, change.Now),
                    }
                );
                change.What = edit switch
                {
                    { Sent: true } => "ticked a post as sent",
                    { Sent: false } => "ticked a post as not sent",
                    { Ready: true } => "said that a post is ready",
                    { Ready: false } => "took a post back to be written on",
                    _ => "wrote a post",
                };
                return Shown(change.Db, PostRows.Get(change.Db, number));
            }
        );
    }

    private static DateTimeOffset? Moment(bool? isSo, DateTimeOffset? before, DateTimeOffset now) =>
        isSo switch
        {
            true => before ?? now,
            false => null,
            null => before,
        };

    public Done<bool> Remove(PostNumber number, Once once) =>
        papers.Run(
            "deleted a post",
            once,
            change =>
            {
                PostRows.Get(change.Db, number);
                change.Db.Execute("DELETE FROM post WHERE number = @number", new { number });
                return true;
            }
        );
}
