namespace ArchTalk.Tests;

/// <summary>Programs that stand in for real ones.</summary>
public static class StandIn
{
    /// <summary>Writes a shell script that can be run and gives its path.</summary>
    public static string Program(string folder, string name, string lines)
    {
        var path = Path.Combine(folder, name);
        File.WriteAllText(path, $"#!/bin/sh\n{lines}\n");
        if (!OperatingSystem.IsWindows())
        {
            File.SetUnixFileMode(path, UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute);
        }

        return path;
    }
}
