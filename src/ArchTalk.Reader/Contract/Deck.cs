namespace ArchTalk.Reader.Contract;

/// <summary>A web address in a slide, and the words that carry it.</summary>
public sealed record SlideLink(string Title, string Address);

/// <summary>What a slide says of itself, beside its looks.</summary>
/// <param name="Title">Of its title placeholder, or empty.</param>
/// <param name="Notes">The speaker's notes, paragraphs on lines of their own.</param>
/// <param name="AlternativeTexts">Of its pictures and drawings, as their author wrote them.</param>
/// <param name="IsHidden">Whether its author left it out of the show.</param>
/// <param name="Typefaces">That its writing asks for.</param>
public sealed record Slide(
    string Title,
    string Notes,
    IReadOnlyList<SlideLink> Links,
    IReadOnlyList<string> AlternativeTexts,
    bool IsHidden,
    IReadOnlyList<string> Typefaces);

/// <summary>The content of a deck, read from the file itself: PPTX (ISO/IEC 29500) or ODP (ISO/IEC 26300).</summary>
/// <param name="HasMacros">Whether it carries macros. They are never run.</param>
/// <param name="Extension">".pptx" or ".odp".</param>
public sealed record Deck(IReadOnlyList<Slide> Slides, bool HasMacros, string Extension);
