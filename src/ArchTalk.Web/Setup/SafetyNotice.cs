using ArchTalk.Media.Boxes;

namespace ArchTalk.Web.Setup;

/// <summary>Says at start whether the programs that read uploaded files are closed in.</summary>
public static partial class SafetyNotice
{
    public static async Task WriteAsync(IServiceProvider services)
    {
        var log = services.GetRequiredService<ILogger<Box>>();
        var box = services.GetRequiredService<Box>();
        if (await box.ClosesAsync())
        {
            return;
        }

        if (await box.ReadsAllKindsAsync())
        {
            LogRisk(log);
        }
        else
        {
            LogRefusing(log);
        }
    }

    [LoggerMessage(LogLevel.Warning, "Programs can't be closed in here (bubblewrap is missing or not allowed), and "
        + "ArchTalk:Box:ReadsFilesWithoutIt is set: a hostile file can read what this account can read.")]
    private static partial void LogRisk(ILogger log);

    [LoggerMessage(LogLevel.Warning, "Programs can't be closed in here (bubblewrap is missing or not allowed), so PDFs, decks and SVG pictures are "
        + "refused. Install bubblewrap, or set ArchTalk:Box:ReadsFilesWithoutIt and take the risk.")]
    private static partial void LogRefusing(ILogger log);
}
