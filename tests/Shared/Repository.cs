using System.Reflection;

namespace ArchTalk.Tests;

/// <summary>Where things are in the working copy.</summary>
public static class Repository
{
    public static string Root { get; } = Path.GetFullPath(
        typeof(Repository).Assembly.GetCustomAttributes<AssemblyMetadataAttribute>().Single(a => a.Key == "RepositoryRoot").Value!);

    public static string Web => Path.Combine(Root, "src", "ArchTalk.Web");

    /// <summary>A file of the demo teacher's.</summary>
    public static string DemoFile(string name) => Path.Combine(Root, "demo-lessons", "boards", name);

    public static string NpmFile(params string[] parts) => Path.Combine([Web, "node_modules", .. parts]);
}
