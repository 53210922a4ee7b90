namespace ArchTalk.Core.Lessons;

/// <summary>A term's translation.</summary>
/// <param name="Language">BCP 47 tag.</param>
public sealed record Translation(string Language, string Text);

/// <summary>An entry of the vocabulary.</summary>
/// <param name="Id">Its identity.</param>
/// <param name="Word">The word itself.</param>
/// <param name="Reading">How it is said or read: phonetic spelling, or a reading in another script.</param>
/// <param name="Meaning">What it means.</param>
/// <param name="Language">BCP 47 tag of the word's language, or empty for the lesson's own.</param>
public sealed record Term(Guid Id, string Word, string Reading, string Meaning, string Language)
{
    public const string New = "new";
    public const string Known = "known";
    public const string Later = "later";

    public string PartOfSpeech { get; init; } = "";

    public IReadOnlyList<Translation> Translations { get; init; } = [];

    public string Example { get; init; } = "";

    /// <summary>The parts the word is made of.</summary>
    public string Parts { get; init; } = "";

    public string Synonym { get; init; } = "";

    /// <summary>The term it is mixed up with.</summary>
    public string ConfusedWith { get; init; } = "";

    public string MemoryAid { get; init; } = "";

    /// <summary>"new" here, "known" already, or only for "later".</summary>
    public string Status { get; init; } = New;
}
