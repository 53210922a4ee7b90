using ArchTalk.Core.Time;

namespace ArchTalk.Core.Recording;

/// <summary>
/// The place of the lesson that a take was recorded for: in the stead of what lies between two moments, or between them where they
/// are one.
/// </summary>
public sealed record TakePlace(Moment From, Moment Until);
