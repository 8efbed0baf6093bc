using Microsoft.Data.Sqlite;

namespace Nachlass.Store.Papers;

/// <summary>Statements of one connection that are prepared once and kept: preparing one that sets off triggers takes longer than running
/// it.</summary>
internal sealed class Prepared(SqliteConnection db) : IDisposable
{
    private readonly Dictionary<string, SqliteCommand> kept = [];

    /// <summary>Runs a statement. The texts are few and constant; whatever changes is a value.</summary>
    public void Run(string sql, params ReadOnlySpan<(string Name, object? Value)> values) => With(sql, values).ExecuteNonQuery();

    /// <summary>Runs a statement that gives back the number of what it made.</summary>
    public int Number(string sql, params ReadOnlySpan<(string Name, object? Value)> values) =>
        Convert.ToInt32(With(sql, values).ExecuteScalar(), System.Globalization.CultureInfo.InvariantCulture);

    private SqliteCommand With(string sql, ReadOnlySpan<(string Name, object? Value)> values)
    {
        if (!kept.TryGetValue(sql, out var command))
            kept[sql] = command = new SqliteCommand(sql, db);
        command.Parameters.Clear();
        foreach (var (name, value) in values)
            command.Parameters.AddWithValue(name, value ?? DBNull.Value);
        return command;
    }

    public void Dispose()
    {
        foreach (var command in kept.Values)
            command.Dispose();
    }
}
