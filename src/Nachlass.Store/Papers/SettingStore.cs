using Dapper;

namespace Nachlass.Store.Papers;

/// <summary>What belongs to this installation and not to the papers: it is neither exported nor undone.</summary>
public sealed class SettingStore(PapersFile papers)
{
    public const string DropFolder = "drop folder";
    public const string Passphrase = "passphrase";
    public const string SignedOut = "signed out";

    /// <summary>Where copies of the papers go, and at what time of the day.</summary>
    public const string CopiesFolder = "copies folder",
        CopiesAt = "copies at";

    /// <summary>Where the papers are mirrored as Markdown.</summary>
    public const string MirrorFolder = "mirror folder";

    /// <summary>What is kept of the secret in the address of the calendar.</summary>
    public const string Calendar = "calendar";

    /// <summary>The file of the drop folder that is being read.</summary>
    public const string BeingRead = "being read";

    /// <summary>The mailbox that is watched.</summary>
    public const string Mailbox = "mailbox";

    /// <summary>The service that makes ideas.</summary>
    public const string IdeaService = "idea service";

    /// <summary>What the writer's own site is called, and where its readers find it.</summary>
    public const string SiteName = "site name",
        SiteAddress = "site address";

    /// <summary>A setting; null when it was never set.</summary>
    public string? Get(string name) =>
        papers.Read(db => db.ExecuteScalar<string>("SELECT value FROM setting WHERE name = @name", new { name }));

    /// <summary>Sets it; null takes it away.</summary>
    public void Set(string name, string? value) =>
        papers.Alone(db =>
            value is null
                ? db.Execute("DELETE FROM setting WHERE name = @name", new { name })
                : db.Execute(
                    "INSERT INTO setting (name, value) VALUES (@name, @value) ON CONFLICT (name) DO UPDATE SET value = @value",
                    new { name, value }
                )
        );
}
