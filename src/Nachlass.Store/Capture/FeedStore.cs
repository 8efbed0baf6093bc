using Dapper;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Sources;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Capture;

/// <summary>The feeds that are watched.</summary>
public sealed class FeedStore(PapersFile papers)
{
    private const string Columns = "SELECT number, address, title, minutes, asked_at, came_at, problem, etag, modified, version FROM feed";

    public IReadOnlyList<WatchedFeed> List() => papers.Read(db => db.Query<WatchedFeed>($"{Columns} ORDER BY title, number").ToList());

    /// <summary>Begins to watch a feed. Only feeds of this machine are asked: the app never calls another host.</summary>
    /// <exception cref="BadInputException">The address is none of this machine, is watched already, or the interval is out of
    /// range.</exception>
    public Done<WatchedFeed> Watch(string? address, int minutes, Once once)
    {
        var clean = AddressOf(address);
        CheckMinutes(minutes);
        return papers.Run(
            $"began to watch {clean}",
            once,
            change =>
            {
                if (change.Db.ExecuteScalar<int>("SELECT count(*) FROM feed WHERE address = @clean", new { clean }) > 0)
                    throw new BadInputException("address", "This feed is watched already.");
                var number = change.Db.ExecuteScalar<int>(
                    "INSERT INTO feed (address, title, minutes) VALUES (@clean, @clean, @minutes) RETURNING number",
                    new { clean, minutes }
                );
                return change.Db.QuerySingle<WatchedFeed>($"{Columns} WHERE number = @number", new { number });
            }
        );
    }

    /// <summary>Changes how often a feed is asked.</summary>
    public Done<WatchedFeed> Edit(FeedNumber number, int minutes, Once once)
    {
        CheckMinutes(minutes);
        return papers.Run(
            "changed how often a feed is asked",
            once,
            change =>
            {
                change.Db.Execute(
                    "UPDATE feed SET minutes = @minutes, version = version + 1 WHERE number = @number",
                    new { number, minutes }
                );
                return change.Db.QuerySingleOrDefault<WatchedFeed>($"{Columns} WHERE number = @number", new { number })
                    ?? throw new NotThereException($"feed {number}");
            }
        );
    }

    /// <summary>Watches a feed no longer; what came from it stays.</summary>
    public Done<WatchedFeed> Stop(FeedNumber number, Once once) =>
        papers.Run(
            "stopped watching a feed",
            once,
            change =>
            {
                var feed =
                    change.Db.QuerySingleOrDefault<WatchedFeed>($"{Columns} WHERE number = @number", new { number })
                    ?? throw new NotThereException($"feed {number}");
                change.Db.Execute("DELETE FROM feed WHERE number = @number", new { number });
                change.What = $"stopped watching “{feed.Title}”";
                return feed;
            }
        );

    /// <summary>Writes down how an asking went. It is no step of the writer's, so it stands in no history.</summary>
    public void Asked(WatchedFeed feed, string? title, string problem, bool came, string etag, string modified) =>
        papers.Alone(db =>
            db.Execute(
                """
                UPDATE feed SET asked_at = @now, came_at = CASE WHEN @came THEN @now ELSE came_at END, problem = @problem,
                    title = coalesce(@title, title), etag = @etag, modified = @modified
                WHERE number = @Number
                """,
                new
                {
                    now = papers.Time.GetUtcNow(),
                    came,
                    problem,
                    title = string.IsNullOrWhiteSpace(title) ? null : title,
                    etag,
                    modified,
                    feed.Number,
                }
            )
        );

    /// <summary>An address that may be asked.</summary>
    /// <exception cref="BadInputException">It is no address, or one of another machine.</exception>
    public static string AddressOf(string? address)
    {
        var clean = Check.Text("address", address, Source.LongestField);
        if (!Uri.TryCreate(clean, UriKind.Absolute, out var uri) || uri.Scheme is not ("http" or "https"))
            throw new BadInputException("address", "The address of a feed begins with http:// or https://.");
        return uri.IsLoopback
            ? uri.ToString()
            : throw new BadInputException(
                "address",
                $"Nachlass calls no other machine, so it can't ask {uri.Host}. Save the feed as a file and bring that in, or watch "
                    + "a feed of this machine."
            );
    }

    private static void CheckMinutes(int minutes)
    {
        if (minutes is < WatchedFeed.LeastMinutes or > WatchedFeed.MostMinutes)
            throw new BadInputException(
                "minutes",
                $"A feed can be asked every {WatchedFeed.LeastMinutes} to {WatchedFeed.MostMinutes:N0} minutes."
            );
    }
}
