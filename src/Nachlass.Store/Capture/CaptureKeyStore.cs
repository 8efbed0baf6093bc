using System.Security.Cryptography;
using Dapper;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Capture;

/// <summary>A key that was just made: the only time its secret is shown.</summary>
public sealed record MadeKey(CaptureKey Key, string Secret);

/// <summary>The keys of other programs. They stand outside of undo, so that no step back opens a door that was closed.</summary>
public sealed class CaptureKeyStore(PapersFile papers)
{
    private const string Columns = "SELECT number, name, made_at, used_at, withdrawn_at FROM capture_key";

    /// <summary>How far a key's last use may lag behind, so that a busy program doesn't write for every request.</summary>
    private static readonly TimeSpan Lag = TimeSpan.FromMinutes(1);

    public IReadOnlyList<CaptureKey> List() =>
        papers.Read(db => db.Query<CaptureKey>($"{Columns} ORDER BY withdrawn_at IS NOT NULL, number DESC").ToList());

    /// <summary>Makes a key. A retried request is refused rather than answered again, since the secret is kept nowhere.</summary>
    public Done<MadeKey> Make(string? name)
    {
        var clean = Check.Text("name", name, CaptureKey.LongestName);
        return papers.Run(
            $"made the capture key “{clean}”",
            Once.Unkeyed,
            change =>
            {
                var secret = CaptureSecret.From(RandomNumberGenerator.GetBytes(32));
                var number = change.Db.ExecuteScalar<int>(
                    "INSERT INTO capture_key (name, hash, made_at) VALUES (@clean, @hash, @Now) RETURNING number",
                    new
                    {
                        clean,
                        hash = CaptureSecret.Hash(secret),
                        change.Now,
                    }
                );
                return new MadeKey(change.Db.QuerySingle<CaptureKey>($"{Columns} WHERE number = @number", new { number }), secret);
            }
        );
    }

    /// <summary>Withdraws a key for good.</summary>
    public Done<CaptureKey> Withdraw(CaptureKeyNumber number, Once once) =>
        papers.Run(
            $"withdrew capture key {number}",
            once,
            change =>
            {
                change.Db.Execute(
                    "UPDATE capture_key SET withdrawn_at = coalesce(withdrawn_at, @Now) WHERE number = @number",
                    new { number, change.Now }
                );
                return change.Db.QuerySingleOrDefault<CaptureKey>($"{Columns} WHERE number = @number", new { number })
                    ?? throw new NotThereException($"capture key {number}");
            }
        );

    /// <summary>The key with this secret, or null when there is none or it was withdrawn.</summary>
    public CaptureKey? Open(string secret)
    {
        var key = papers.Read(db =>
            db.QuerySingleOrDefault<CaptureKey>(
                $"{Columns} WHERE hash = @hash AND withdrawn_at IS NULL",
                new { hash = CaptureSecret.Hash(secret) }
            )
        );
        var now = papers.Time.GetUtcNow();
        if (key is not null && (key.UsedAt is null || now - key.UsedAt > Lag))
            papers.Alone(db => db.Execute("UPDATE capture_key SET used_at = @now WHERE number = @Number", new { now, key.Number }));
        return key;
    }
}
