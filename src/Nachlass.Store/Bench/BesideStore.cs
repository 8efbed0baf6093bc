using Dapper;
using Nachlass.Core.Bench;
using Nachlass.Core.Papers;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Bench;

/// <summary>A field of a piece with its value.</summary>
/// <param name="Value">Empty when nothing is said.</param>
/// <param name="IsOfFormat">Whether the piece's format has it; a value whose field the format had once stays.</param>
public sealed record FieldShown(OwnField Field, string Value, bool IsOfFormat);

/// <summary>A text beside the draft.</summary>
/// <param name="Version">0 while nothing is written in it.</param>
/// <param name="Measured">Against its limit; null where it has none.</param>
public sealed record SideTextShown(string Key, string Name, string Text, int Version, Measured? Measured);

/// <summary>Fields to be set, by their keys; an empty value takes one away.</summary>
public sealed record FieldsChange(IReadOnlyDictionary<string, string>? Values);

/// <summary>The text of a side text, and the version it is based on, 0 for a new one.</summary>
public sealed record SideTextChange(string? Text, int? Version = null);

/// <summary>What stands beside a draft: its format's own fields and its side texts.</summary>
public sealed class BesideStore(PapersFile papers)
{
    public const int LongestSideText = 200_000;

    public IReadOnlyList<FieldShown> Fields(PieceNumber piece) => papers.Read(db => Shown(db, PieceRows.Get(db, piece)));

    private static List<FieldShown> Shown(Microsoft.Data.Sqlite.SqliteConnection db, Piece piece)
    {
        var format = FormatRows.Named(db, piece.Format);
        return
        [
            .. format.Fields.Select(f => new FieldShown(f, piece.Fields.GetValueOrDefault(f.Key, ""), true)),
            .. piece
                .Fields.Where(v => format.Fields.All(f => f.Key != v.Key))
                .OrderBy(v => v.Key, StringComparer.Ordinal)
                .Select(v => new FieldShown(new OwnField(v.Key, v.Key.Replace('_', ' ')), v.Value, false)),
        ];
    }

    /// <exception cref="BadInputException">A field can't hold its value, or the piece has no such field.</exception>
    public Done<IReadOnlyList<FieldShown>> SetFields(PieceNumber number, FieldsChange set, Once once) =>
        papers.Run(
            $"filled in fields of P {number}",
            once,
            change =>
            {
                var before = Shown(change.Db, PieceRows.Get(change.Db, number));
                foreach (var (key, value) in set.Values ?? new Dictionary<string, string>())
                {
                    var field =
                        before.FirstOrDefault(f => f.Field.Key == key)?.Field
                        ?? throw new BadInputException($"fields.{key}", $"P {number} has no field “{key}”.");
                    var kept = FieldValue.Checked(field, value);
                    if (kept.Length == 0)
                        change.Db.Execute("DELETE FROM piece_field WHERE piece = @number AND key = @key", new { number, key });
                    else
                        change.Db.Execute(
                            "INSERT INTO piece_field (piece, key, value) VALUES (@number, @key, @kept) "
                                + "ON CONFLICT (piece, key) DO UPDATE SET value = @kept",
                            new
                            {
                                number,
                                key,
                                kept,
                            }
                        );
                    change.What = kept.Length == 0 ? $"emptied {field.Name} of P {number}" : $"filled in {field.Name} of P {number}";
                }
                return (IReadOnlyList<FieldShown>)Shown(change.Db, PieceRows.Get(change.Db, number));
            }
        );

    /// <summary>The side texts of a piece: those its format names, and any that something is written in.</summary>
    public IReadOnlyList<SideTextShown> SideTexts(PieceNumber piece) =>
        papers.Read(db =>
        {
            var format = FormatRows.Named(db, PieceRows.Get(db, piece).Format);
            var written = SideTextRows.Of(db, piece).Select(t => t.Key);
            return (IReadOnlyList<SideTextShown>)
                [.. format.SideTexts.Select(t => t.Key).Concat(written).Distinct().Select(key => Side(db, piece, format, key))];
        });

    public SideTextShown SideText(PieceNumber piece, string key) =>
        papers.Read(db => Must(Side(db, piece, FormatRows.Named(db, PieceRows.Get(db, piece).Format), key)));

    private static SideTextShown Must(SideTextShown shown) =>
        shown.Name.Length > 0 ? shown : throw new NotThereException($"side text {shown.Key}");

    private static SideTextShown Side(Microsoft.Data.Sqlite.SqliteConnection db, PieceNumber piece, Format format, string key)
    {
        var named = format.SideTexts.FirstOrDefault(t => t.Key == key || t.Name.Equals(key, StringComparison.OrdinalIgnoreCase));
        var own = named?.Key ?? key;
        var found = SideTextRows.Find(db, piece, own);
        return new SideTextShown(
            own,
            named?.Name ?? (found is null ? "" : own.Replace('_', ' ')),
            found?.Text ?? "",
            found?.Version ?? 0,
            named?.Limit is { } limit ? Measure.Of(found?.Text ?? "", limit, format.Limits) : null
        );
    }

    /// <summary>Writes a side text; an empty one is there no more.</summary>
    /// <exception cref="StaleException">Another tab wrote in it meanwhile.</exception>
    public Done<SideTextShown> WriteSideText(PieceNumber piece, string key, SideTextChange written, Once once)
    {
        var text = Check.Length("text", written.Text, LongestSideText);
        return papers.Run(
            $"wrote a side text of P {piece}",
            once,
            change =>
            {
                var format = FormatRows.Named(change.Db, PieceRows.Get(change.Db, piece).Format);
                var before = Must(Side(change.Db, piece, format, key));
                if (written.Version is { } based && based != before.Version)
                    throw new StaleException($"{before.Name} of P {piece}", before);
                SideTextRows.Put(change.Db, piece, before.Key, text);
                change.What = $"wrote {before.Name.ToLowerInvariant()} of P {piece}";
                return Side(change.Db, piece, format, before.Key) is var after && after.Name.Length == 0
                    ? after with
                    {
                        Name = before.Name,
                    }
                    : after;
            }
        );
    }
}
