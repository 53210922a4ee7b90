using System.Text.Json;

namespace ArchTalk.Reader.Contract;

/// <param name="Id">Comes back with the answer: several questions may be open at once.</param>
public sealed record Asked(int Id, Question Question);

/// <param name="Fault">What is wrong with the file, as a teacher reads it; null when there is an answer.</param>
public sealed record Answered(int Id, JsonElement? Answer, string? Fault);
