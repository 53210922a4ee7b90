using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Design;

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

    /// <summary>Brings the database to the present version, after a copy beside it when there is something to lose.</summary>
    public static async Task MigrateAsync(ArchTalkDb db, CancellationToken cancel = default)
    {
        var file = new SqliteConnectionStringBuilder(db.Database.GetConnectionString()).DataSource;
        var pending = await db.Database.GetPendingMigrationsAsync(cancel);
        if (pending.Any() && File.Exists(file) && new FileInfo(file).Length > 0)
        {
            await BackUpAsync(file, $"{file}.before-{pending.First()}", cancel);
        }

        await db.Database.MigrateAsync(cancel);
        await db.Database.ExecuteSqlRawAsync("PRAGMA journal_mode = WAL; PRAGMA synchronous = NORMAL;", cancel);
    }

    private static async Task BackUpAsync(string from, string to, CancellationToken cancel)
    {
        await using var source = new SqliteConnection(ConnectionString(from));
        await using var target = new SqliteConnection(ConnectionString(to));
        await source.OpenAsync(cancel);
        await target.OpenAsync(cancel);
        source.BackupDatabase(target);
    }

    /// <summary>Only for the tool that writes migrations.</summary>
    internal sealed class DesignTimeFactory : IDesignTimeDbContextFactory<ArchTalkDb>
    {
        public ArchTalkDb CreateDbContext(string[] args) =>
            new(new DbContextOptionsBuilder<ArchTalkDb>().UseSqlite(ConnectionString("design.db")).Options);
    }
}
