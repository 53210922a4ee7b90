using ArchTalk.Data;
using ArchTalk.Data.Entities;
using ArchTalk.Data.Files;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

namespace ArchTalk.Web.Tests;

/// <summary>The database at start-up, whatever was killed before.</summary>
public sealed class DatabaseTests : IDisposable
{
    private const string Earlier = "20261125140442_Preparing";
    private readonly string folder = Directory.CreateTempSubdirectory("archtalk-db-").FullName;

    private string DatabaseFile => Path.Combine(folder, "archtalk.db");

    public void Dispose()
    {
        SqliteConnection.ClearAllPools();
        Directory.Delete(folder, recursive: true);
    }

    [Fact]
    public async Task A_migration_that_was_killed_holds_nothing_up_and_what_was_there_is_kept_beside()
    {
        await MakeEarlierAsync();
        await using (var db = Open())
        {
            // What a killed migration of an earlier release leaves behind, and a half-written copy of this one.
            await db.Database.ExecuteSqlRawAsync("""INSERT INTO "__EFMigrationsLock" VALUES (1, '2026');""");
        }

        await File.WriteAllTextAsync($"{DatabaseFile}.draft", "half");
        await File.WriteAllTextAsync($"{DatabaseFile}.draft-journal", "half");
        await using (var db = Open())
        {
            await DatabaseSetup.MigrateAsync(db).WaitAsync(TimeSpan.FromSeconds(60));
            (await db.Database.GetPendingMigrationsAsync()).ShouldBeEmpty();
            (await db.Lessons.SingleAsync()).Title.ShouldBe("Arch");
        }

        File.Exists($"{DatabaseFile}.draft").ShouldBeFalse();
        await using var before = Open($"{DatabaseFile}.before-{(await LatestAsync())}");
        (await before.Database.GetAppliedMigrationsAsync()).Last().ShouldBe(Earlier);
    }

    [Fact]
    public async Task Two_current_states_of_a_list_from_an_earlier_release_become_one_and_can_never_be_two_again()
    {
        var lesson = await MakeEarlierAsync();
        await using (var db = Open())
        {
            for (var number = 1; number <= 2; number++)
            {
                await db.Database.ExecuteSqlAsync(
                    $"""
                    INSERT INTO SectionStates (LessonId, Kind, BoardId, Number, IsCurrent, Json, SavedAt)
                    VALUES ({lesson}, 1, {Guid.Empty}, {number}, 1, '[]', 0)
                    """);
            }
        }

        await using var migrated = Open();
        await DatabaseSetup.MigrateAsync(migrated);
        (await migrated.SectionStates.SingleAsync(s => s.IsCurrent)).Number.ShouldBe(2);
        migrated.SectionStates.Add(new SectionState { LessonId = lesson, Kind = SectionKind.Terms, Number = 3, IsCurrent = true, Json = "[]" });
        await Should.ThrowAsync<DbUpdateException>(() => migrated.SaveChangesAsync());
    }

    [Fact]
    public async Task Every_connection_flushes_its_commits()
    {
        await using (var db = Open())
        {
            await DatabaseSetup.MigrateAsync(db);
        }

        // Several at once, so that each is another connection of the pool.
        var contexts = Enumerable.Range(0, 4).Select(_ => Open()).ToArray();
        foreach (var db in contexts)
        {
            await db.Database.OpenConnectionAsync();
        }

        foreach (var db in contexts)
        {
            (await db.Database.SqlQueryRaw<long>("SELECT synchronous AS Value FROM pragma_synchronous").SingleAsync()).ShouldBe(2);
            await db.DisposeAsync();
        }
    }

    [Fact]
    public void A_folder_is_put_in_its_place_whole()
    {
        var draft = Directory.CreateDirectory(Path.Combine(folder, "draft", "inner")).Parent!.FullName;
        File.WriteAllText(Path.Combine(draft, "inner", "a.txt"), "a");
        DurableFiles.Place(draft, Path.Combine(folder, "place"));
        File.ReadAllText(Path.Combine(folder, "place", "inner", "a.txt")).ShouldBe("a");
        Directory.Exists(draft).ShouldBeFalse();
        Should.Throw<IOException>(() => DurableFiles.FlushFolder(Path.Combine(folder, "nowhere")));
    }

    private ArchTalkDb Open(string? file = null) => DatabaseSetup.Open(file ?? DatabaseFile);

    private async Task<string> LatestAsync()
    {
        await using var db = Open();
        return db.Database.GetMigrations().SkipWhile(m => m != Earlier).Skip(1).First();
    }

    /// <summary>A database of an earlier release with one lesson in it.</summary>
    private async Task<Guid> MakeEarlierAsync()
    {
        var lesson = Guid.CreateVersion7();
        await using var db = Open();
        await db.GetService<IMigrator>().MigrateAsync(Earlier);
        await db.Database.ExecuteSqlRawAsync("PRAGMA journal_mode = WAL;");
        db.Users.Add(new Teacher { Id = "t", UserName = "t", DisplayName = "t" });
        await db.SaveChangesAsync();

        // As that release wrote it: the model of today has more columns.
        await db.Database.ExecuteSqlAsync(
            $"""
            INSERT INTO Lessons (Id, TeacherId, Title, WatchToken, "Order", CreatedAt, ChangedAt, IsWithdrawn)
            VALUES ({lesson}, 't', 'Arch', 'w', 0, 0, 0, 0)
            """);
        return lesson;
    }
}
