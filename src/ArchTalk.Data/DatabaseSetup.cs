using System.Data.Common;
using ArchTalk.Data.Files;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Design;
using Microsoft.EntityFrameworkCore.Diagnostics;

namespace ArchTalk.Data;

/// <summary>Opens, migrates and backs up the database.</summary>
public static class DatabaseSetup
{
    public static string ConnectionString(string file) => new SqliteConnectionStringBuilder
    {
        DataSource = file,
        ForeignKeys = true,
        DefaultTimeout = 30,
    }.ToString();

    /// <summary>How every context reaches the database: what it was told is saved is on the disk.</summary>
    public static void Configure(DbContextOptionsBuilder options, string file) =>
        options.UseSqlite(ConnectionString(file)).AddInterceptors(new FlushedCommits());

    /// <summary>A context of its own on a database file.</summary>
    public static ArchTalkDb Open(string file)
    {
        var options = new DbContextOptionsBuilder<ArchTalkDb>();
        Configure(options, file);
        return new(options.Options);
    }

    /// <summary>
    /// Brings the database to the present version, after a copy beside it when there is something to lose. A copy is migrated and
    /// then put in the database's place in one step, so a kill at any moment leaves the old database whole and nothing locked.
    /// </summary>
    public static async Task MigrateAsync(ArchTalkDb db, CancellationToken cancel = default)
    {
        var file = new SqliteConnectionStringBuilder(db.Database.GetConnectionString()).DataSource;
        var pending = await db.Database.GetPendingMigrationsAsync(cancel);
        if (pending.Any())
        {
            await db.Database.CloseConnectionAsync();
            await MigrateCopyAsync(file, pending.First(), cancel);
        }

        await db.Database.ExecuteSqlRawAsync("PRAGMA journal_mode = WAL;", cancel);
    }

    private static async Task MigrateCopyAsync(string file, string firstPending, CancellationToken cancel)
    {
        var draft = $"{file}.draft";
        Discard(draft);
        if (File.Exists(file) && new FileInfo(file).Length > 0)
        {
            var before = $"{file}.before-{firstPending}";
            await CopyAsync(file, draft, cancel);
            DurableFiles.Place(draft, before);
            File.Copy(before, draft);
        }

        await using (var drafted = Open(draft))
        {
            // A migration that was killed leaves a row that says somebody is at work; on this copy nobody is.
            await drafted.Database.ExecuteSqlRawAsync("DROP TABLE IF EXISTS \"__EFMigrationsLock\";", cancel);
            await drafted.Database.MigrateAsync(cancel);
            await drafted.Database.ExecuteSqlRawAsync("PRAGMA journal_mode = DELETE;", cancel);
        }

        Release(draft);
        Release(file);
        DurableFiles.Place(draft, file);
    }

    /// <summary>A copy as one file that needs no other beside it.</summary>
    private static async Task CopyAsync(string from, string to, CancellationToken cancel)
    {
        await using (var source = new SqliteConnection(ConnectionString(from)))
        await using (var target = new SqliteConnection(ConnectionString(to)))
        {
            await source.OpenAsync(cancel);
            await target.OpenAsync(cancel);
            source.BackupDatabase(target);
            await using var single = target.CreateCommand();
            single.CommandText = "PRAGMA journal_mode = DELETE;";
            await single.ExecuteNonQueryAsync(cancel);
        }

        Release(from);
        Release(to);
    }

    // The last connection that closes brings everything into the one file and removes what lies beside it.
    private static void Release(string file)
    {
        using var connection = new SqliteConnection(ConnectionString(file));
        SqliteConnection.ClearPool(connection);
    }

    private static void Discard(string file)
    {
        foreach (var end in new[] { "", "-journal", "-wal", "-shm" })
        {
            File.Delete(file + end);
        }
    }

    /// <summary>
    /// With SQLite's WAL a commit reaches the disk only under <c>synchronous = FULL</c>, and that is a setting of each connection
    /// (https://sqlite.org/pragma.html#pragma_synchronous, from memory).
    /// </summary>
    private sealed class FlushedCommits : DbConnectionInterceptor
    {
        private const string Setting = "PRAGMA synchronous = FULL;";

        public override void ConnectionOpened(DbConnection connection, ConnectionEndEventData eventData)
        {
            using var command = connection.CreateCommand();
            command.CommandText = Setting;
            command.ExecuteNonQuery();
        }

        public override async Task ConnectionOpenedAsync(
            DbConnection connection,
            ConnectionEndEventData eventData,
            CancellationToken cancellationToken = default)
        {
            await using var command = connection.CreateCommand();
            command.CommandText = Setting;
            await command.ExecuteNonQueryAsync(cancellationToken);
        }
    }

    /// <summary>Only for the tool that writes migrations.</summary>
    internal sealed class DesignTimeFactory : IDesignTimeDbContextFactory<ArchTalkDb>
    {
        public ArchTalkDb CreateDbContext(string[] args) => Open("design.db");
    }
}
