namespace ArchTalk.Bench;

/// <summary>The project's own folder.</summary>
internal static class Root
{
    public static string Path { get; } = Find();

    private static string Find()
    {
        var folder = AppContext.BaseDirectory;
        while (!File.Exists(System.IO.Path.Combine(folder, "ArchTalk.slnx")))
        {
            folder = System.IO.Path.GetDirectoryName(folder)!;
        }

        return folder;
    }
}
