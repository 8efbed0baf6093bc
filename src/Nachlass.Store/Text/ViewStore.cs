using System.Text.Json;
using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Papers;
using Nachlass.Core.Text.Queries;
using Nachlass.Store.Papers;
using Nachlass.Store.Sources;

namespace Nachlass.Store.Text;

/// <summary>A change to a view; what is not set stays.</summary>
public sealed record ViewChange
{
    public int? Version { get; init; }
    public string? Name { get; init; }
    public string? Query { get; init; }
    public ViewLayout? Layout { get; init; }
    public IReadOnlyList<ViewColumn>? Columns { get; init; }
    public Maybe<ListSort?> Sort { get; init; }
    public bool? Upward { get; init; }
    public Maybe<ViewGroup?> Grouped { get; init; }
    public bool? OnDesk { get; init; }

    /// <summary>Its place among the views, from 1.</summary>
    public int? Position { get; init; }
}

/// <summary>A view as the Desk shows it: how many there are, and the first of them.</summary>
public sealed record ViewOnDesk(SavedView View, int Total, IReadOnlyList<LibraryEntry> First);

/// <summary>Views.</summary>
public sealed class ViewStore(PapersFile papers, LibraryStore library)
{
    private const int ShownOnDesk = 4;

    public IReadOnlyList<SavedView> List() => papers.Read(All);

    /// <exception cref="NotThereException">There is no such view.</exception>
    public SavedView Get(ViewNumber number) => papers.Read(db => Get(db, number));

    /// <summary>Those the writer wants on the Desk.</summary>
    public IReadOnlyList<ViewOnDesk> OnDesk() =>
        [
            .. List()
                .Where(v => v.OnDesk)
                .Select(view =>
                {
                    var list = library.List(Ask(view));
                    return new ViewOnDesk(view, list.Total, [.. list.Items.Take(ShownOnDesk)]);
                }),
        ];

    /// <summary>What a view asks of the library.</summary>
    public static LibraryQuery Ask(SavedView view) => new(view.Query + " ", Sort: view.Sort, Upward: view.Upward);

    /// <summary>Keeps a query under a name.</summary>
    public Done<SavedView> Add(ViewChange made, Once once) =>
        papers.Run(
            "made a view",
            once,
            change =>
            {
                var view = Changed(new SavedView { Name = "", Query = "" }, made).Checked();
                RefuseTaken(change.Db, view);
                change.What = $"made the view {view.Name}";
                return Get(change.Db, Put(change.Db, view));
            }
        );

    public Done<SavedView> Edit(ViewNumber number, ViewChange edit, Once once)
    {
        var based = Check.Version(edit.Version);
        return papers.Run(
            "changed a view",
            once,
            change =>
            {
                var before = Get(change.Db, number);
                if (before.Version != based)
                    throw new StaleException($"The view {before.Name}", before);
                var view = Changed(before, edit).Checked();
                RefuseTaken(change.Db, view);
                change.Db.Execute(
                    """
                    UPDATE saved_view SET name = @Name, query = @Query, layout = @layout, columns = @columns, sort = @sort,
                        upward = @Upward,
                        grouped = @grouped, on_desk = @OnDesk, version = version + 1 WHERE number = @Number
                    """,
                    Row(view)
                );
                if (edit.Position is { } place)
                    Move(change.Db, number, place);
                change.What = $"changed the view {view.Name}";
                return Get(change.Db, number);
            }
        );
    }

    public Done<IReadOnlyList<SavedView>> Remove(ViewNumber number, Once once) =>
        papers.Run(
            "took a view away",
            once,
            change =>
            {
                change.What = $"took the view {Get(change.Db, number).Name} away";
                change.Db.Execute("DELETE FROM saved_view WHERE number = @number", new { number });
                return All(change.Db);
            }
        );

    /// <summary>Takes in views from elsewhere. One that is here already is left alone; one of the same name that asks something else gets a
    /// number behind its name.</summary>
    /// <returns>The views that were added.</returns>
    public Done<IReadOnlyList<SavedView>> BringIn(IReadOnlyList<SavedView> views, Once once) =>
        papers.Run(
            "brought in views",
            once,
            change =>
            {
                var added = new List<SavedView>();
                foreach (var view in views.Select(v => v.Checked()))
                {
                    var there = All(change.Db);
                    if (there.Any(v => Same(v, view)))
                        continue;
                    var name = view.Name;
                    for (var n = 2; there.Any(v => v.Name.Equals(name, StringComparison.OrdinalIgnoreCase)); n++)
                        name = $"{view.Name} ({n})";
                    added.Add(Get(change.Db, Put(change.Db, view with { Name = name })));
                }
                change.What = $"brought in {added.Count} {(added.Count == 1 ? "view" : "views")}";
                return (IReadOnlyList<SavedView>)added;
            }
        );

    private static bool Same(SavedView a, SavedView b) =>
        a.Name.Equals(b.Name, StringComparison.OrdinalIgnoreCase)
        && a.Query == b.Query
        && a.Layout == b.Layout
        && a.Sort == b.Sort
        && a.Upward == b.Upward
        && a.Grouped == b.Grouped
        && a.Columns.SequenceEqual(b.Columns);

    private static SavedView Changed(SavedView view, ViewChange edit) =>
        view with
        {
            Name = edit.Name ?? view.Name,
            Query = edit.Query ?? view.Query,
            Layout = edit.Layout ?? view.Layout,
            Columns = edit.Columns ?? view.Columns,
            Sort = edit.Sort.Or(view.Sort),
            Upward = edit.Upward ?? view.Upward,
            Grouped = edit.Grouped.Or(view.Grouped),
            OnDesk = edit.OnDesk ?? view.OnDesk,
        };

    internal static ViewNumber Put(SqliteConnection db, SavedView view) =>
        ViewNumber.Of(
            db.ExecuteScalar<int>(
                """
                INSERT INTO saved_view (name, query, layout, columns, sort, upward, grouped, on_desk, position)
                VALUES (@Name, @Query, @layout, @columns, @sort, @Upward, @grouped, @OnDesk, (SELECT coalesce(max(position), 0) + 1
                    FROM saved_view)) RETURNING number
                """,
                Row(view)
            )
        );

    private static object Row(SavedView view) =>
        new
        {
            view.Number,
            view.Name,
            view.Query,
            layout = view.Layout.Kept(),
            columns = JsonSerializer.Serialize(view.Columns, Answers.Json),
            sort = view.Sort?.Kept(),
            view.Upward,
            grouped = view.Grouped?.Kept(),
            view.OnDesk,
        };

    private static void Move(SqliteConnection db, ViewNumber number, int place)
    {
        var order = All(db).Select(v => v.Number).Where(n => n != number).ToList();
        order.Insert(Math.Clamp(place - 1, 0, order.Count), number);
        for (var i = 0; i < order.Count; i++)
            db.Execute(
                "UPDATE saved_view SET position = @place WHERE number = @view AND position <> @place",
                new { view = order[i], place = i + 1 }
            );
    }

    private static void RefuseTaken(SqliteConnection db, SavedView view)
    {
        if (
            All(db).FirstOrDefault(v => v.Number != view.Number && v.Name.Equals(view.Name, StringComparison.OrdinalIgnoreCase)) is
            { } there
        )
            throw new BadInputException("name", $"There is a view “{there.Name}” already; give it another name, or change that one.");
    }

    internal static IReadOnlyList<SavedView> All(SqliteConnection db) =>
        db.Query<SavedView>(
                "SELECT number, name, query, layout, columns, sort, upward, grouped, on_desk, position, version "
                    + "FROM saved_view ORDER BY position, number"
            )
            .AsList();

    private static SavedView Get(SqliteConnection db, ViewNumber number) =>
        All(db).FirstOrDefault(v => v.Number == number) ?? throw new NotThereException($"view {number}");
}
