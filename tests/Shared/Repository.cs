using System.Reflection;

namespace ArchTalk.Browser.Tests.Support;

/// <summary>Where things are in the working copy.</summary>
internal static class Repository
{
    public static string Root { get; } = Path.GetFullPath(
        typeof(Repository).Assembly.GetCustomAttributes<AssemblyMetadataAttribute>().Single(a => a.Key == "RepositoryRoot").Value!);

    public static string Web => Path.Combine(Root, "src", "ArchTalk.Web");

    public static string NpmFile(params string[] parts) => Path.Combine([Web, "node_modules", .. parts]);
}
