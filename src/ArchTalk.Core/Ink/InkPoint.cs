namespace ArchTalk.Core.Ink;

/// <summary>A point of ink in the lesson: tenths of a board unit, pressure 0 to 255, whole milliseconds of lesson time.</summary>
public readonly record struct InkPoint(int X, int Y, byte Pressure, int Milliseconds);
