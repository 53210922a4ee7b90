using System.Globalization;

namespace ArchTalk.Data.Files;

/// <summary>Where everything lies under the data folder. Names are made from identities, never from what anybody typed.</summary>
public sealed class LessonFiles
{
    public LessonFiles(string root)
    {
        Root = Path.GetFullPath(root);
        Directory.CreateDirectory(Root);
    }

    public string Root { get; }

    /// <summary>Deletes a folder with all that is in it, if it is there.</summary>
    public static void Discard(string folder)
    {
        if (Directory.Exists(folder))
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    public string Database => Path.Combine(Root, "archtalk.db");

    public string Keys => Directory.CreateDirectory(Path.Combine(Root, "keys")).FullName;

    public string Lesson(Guid lesson) => Path.Combine(Root, "lessons", lesson.ToString("N"));

    public string Board(Guid lesson, Guid board) => Path.Combine(Lesson(lesson), "boards", board.ToString("N"));

    /// <summary>The words of a board's picture.</summary>
    public string BoardText(Guid lesson, Guid board) => Path.Combine(Board(lesson, board), "text.json");

    public string Takes(Guid lesson) => Path.Combine(Lesson(lesson), "takes");

    public string Take(Guid lesson, Guid take) => Path.Combine(Takes(lesson), take.ToString("N"));

    public string Journal(Guid lesson, Guid take) => Path.Combine(Take(lesson, take), "take.journal");

    /// <summary>What was measured of a take's sound; it can be made anew from the journal.</summary>
    public string Measures(Guid lesson, Guid take) => Path.Combine(Take(lesson, take), "take.measures");

    /// <summary>Copies of the lesson's voice as students hear it, made ahead of publishing.</summary>
    public string Encoded(Guid lesson) => Path.Combine(Lesson(lesson), "voice");

    public string Uploads(Guid lesson) => Path.Combine(Lesson(lesson), "uploads");

    /// <summary>Files for students to download.</summary>
    public string Attachments(Guid lesson) => Path.Combine(Lesson(lesson), "attachments");

    public string Attachment(Guid lesson, Guid attachment) => Path.Combine(Attachments(lesson), attachment.ToString("N"));

    public string Publication(Guid lesson, int number) =>
        Path.Combine(Lesson(lesson), "publications", number.ToString(CultureInfo.InvariantCulture));
}
