namespace ArchTalk.Media.Tests;

/// <summary>Where the project's own files are.</summary>
internal static class Project
{
    public static string Root { get; } = Find();

    private static string Find()
    {
        var folder = new DirectoryInfo(AppContext.BaseDirectory);
        while (folder is not null && !File.Exists(Path.Combine(folder.FullName, "ArchTalk.slnx")))
        {
            folder = folder.Parent;
        }

        return folder?.FullName ?? throw new DirectoryNotFoundException("The project's root wasn't found above the tests.");
    }
}
