using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Catalogue;
using Nachlass.Core.Papers;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Catalogue;

/// <summary>A view of the catalogue as it is to be kept; what is not set stays.</summary>
public sealed record CatalogueViewChange(string? Name = null, string? With = null, CatalogueBy? By = null, int? Version = null);

/// <summary>Keeps ways of looking at the catalogue.</summary>
public sealed class CatalogueViewStore(PapersFile papers)
{
    public IReadOnlyList<CatalogueView> List() => papers.Read(All);

    internal static IReadOnlyList<CatalogueView> All(SqliteConnection db) => Read(db, "true", null);

    private static IReadOnlyList<CatalogueView> Read(SqliteConnection db, string where, object? arguments) =>
        [
            .. db.Query<(int Number, string Name, string Looked, string Grouped, int Version)>(
                    $"SELECT number, name, looked, grouped, version FROM catalogue_view WHERE {where} ORDER BY name COLLATE NOCASE",
                    arguments
                )
                .Select(v => new CatalogueView(
                    CatalogueViewNumber.Of(v.Number),
                    v.Name,
                    v.Looked,
                    Enum.Parse<CatalogueBy>(v.Grouped, ignoreCase: true),
                    v.Version
                )),
        ];

    private static CatalogueView Get(SqliteConnection db, CatalogueViewNumber number) =>
        Read(db, "number = @number", new { number }) is [var view] ? view : throw new NotThereException($"view {number} of the catalogue");

    internal static CatalogueViewNumber Put(SqliteConnection db, CatalogueView view) =>
        CatalogueViewNumber.Of(
            db.ExecuteScalar<int>(
                "INSERT INTO catalogue_view (number, name, looked, grouped) VALUES (@number, @Name, @With, @by) RETURNING number",
                new
                {
                    number = view.Number.Value == 0 ? (int?)null : view.Number.Value,
                    view.Name,
                    view.With,
                    by = view.By.Kept(),
                }
            )
        );

    /// <exception cref="ClashException">There is one of that name.</exception>
    public Done<CatalogueView> Add(CatalogueViewChange made, Once once)
    {
        var name = Check.Text("name", made.Name, CatalogueView.LongestName);
        var with = Check.Length("with", made.With?.Trim(), CatalogueView.LongestWith);
        return papers.Run(
            $"kept the view {name}",
            once,
            change =>
            {
                RefuseTaken(change.Db, name, default);
                return Get(change.Db, Put(change.Db, new CatalogueView(default, name, with, made.By ?? CatalogueBy.Year)));
            }
        );
    }

    public Done<CatalogueView> Edit(CatalogueViewNumber number, CatalogueViewChange edit, Once once)
    {
        var based = Check.Version(edit.Version);
        var name = edit.Name is null ? null : Check.Text("name", edit.Name, CatalogueView.LongestName);
        var with = edit.With is null ? null : Check.Length("with", edit.With.Trim(), CatalogueView.LongestWith);
        return papers.Run(
            "changed a view of the catalogue",
            once,
            change =>
            {
                var view = Get(change.Db, number);
                if (view.Version != based)
                    throw new StaleException($"The view {view.Name}", view);
                RefuseTaken(change.Db, name ?? view.Name, number);
                change.Db.Execute(
                    "UPDATE catalogue_view SET name = @name, looked = @with, grouped = @by, version = version + 1 WHERE number = @number",
                    new
                    {
                        number,
                        name = name ?? view.Name,
                        with = with ?? view.With,
                        by = (edit.By ?? view.By).Kept(),
                    }
                );
                return Get(change.Db, number);
            }
        );
    }

    public Done<CatalogueView> Remove(CatalogueViewNumber number, Once once) =>
        papers.Run(
            "took a view of the catalogue away",
            once,
            change =>
            {
                var view = Get(change.Db, number);
                change.Db.Execute("DELETE FROM catalogue_view WHERE number = @number", new { number });
                change.What = $"took the view {view.Name} away";
                return view;
            }
        );

    private static void RefuseTaken(SqliteConnection db, string name, CatalogueViewNumber except)
    {
        if (Read(db, "lower(name) = lower(@name) AND number <> @except", new { name, except }).Count > 0)
            throw new BadInputException("name", $"There is a view called “{name}” already.");
    }
}
