using System.Text.Json;
using ArchTalk.Reader;
using ArchTalk.Reader.Contract;

// One line of limits, then one line for each question; answers come as they are ready. It ends when nothing more is asked.
var limits = JsonSerializer.Deserialize<MediaLimits>(await Console.In.ReadLineAsync() ?? "{}")!;
using var reading = new Reading(limits);
var open = new List<Task>();
while (await Console.In.ReadLineAsync() is { } line)
{
    open.Add(Task.Run(() => Console.Out.WriteLine(reading.Answer(line))));
    open.RemoveAll(t => t.IsCompletedSuccessfully);
}

await Task.WhenAll(open);
