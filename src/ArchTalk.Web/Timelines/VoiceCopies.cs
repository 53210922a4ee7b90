using System.Collections.Concurrent;
using ArchTalk.Core.Audio;
using ArchTalk.Data.Files;
using ArchTalk.Media;

namespace ArchTalk.Web.Timelines;

/// <summary>
/// The copies of lessons' voices that students hear. Each is made once for what it sounds like, in the background or when somebody needs
/// it, and kept until the lesson sounds otherwise. A publication that needs the same sound takes the same files.
/// </summary>
public sealed class VoiceCopies(LessonVoices voices, LessonFiles files, Voice voice)
{
    // One that comes out too loud or too quiet is made again with what was learnt from it.
    private const int MostTries = 2;

    private readonly ConcurrentDictionary<Guid, Making> running = new();

    /// <summary>How far the copies for a lesson's present sound are, from 0 to 1; null when they are neither made nor there.</summary>
    public double? DoneOf(VoiceMix mix) =>
        AreThere(mix) ? 1 : running.TryGetValue(mix.Lesson, out var making) && making.Name == mix.Name ? making.Done : null;

    /// <summary>Makes the copies of a lesson as it sounds now, unless they are there.</summary>
    /// <param name="compiled">What is to be heard.</param>
    /// <param name="progress">Is told the share that is done; who waits for one that was begun before hears of it too.</param>
    public async Task MakeAsync(CompiledLesson compiled, Action<double> progress, CancellationToken cancel)
    {
        for (var tries = 0; tries < MostTries; tries++)
        {
            var mix = await voices.MixAsync(compiled, cancel);
            if (AreThere(mix) || await FollowAsync(Begin(mix), progress, cancel))
            {
                return;
            }
        }
    }

    /// <summary>The same, and puts the files of <see cref="Voice.CopyNames"/> into a folder, without taking room for them twice.</summary>
    public async Task PutAsync(CompiledLesson compiled, string folder, Action<double> progress, CancellationToken cancel)
    {
        await MakeAsync(compiled, progress, cancel);
        var made = Folder(await voices.MixAsync(compiled, cancel));
        foreach (var name in Voice.CopyNames)
        {
            SharedFiles.Link(Path.Combine(made, name), Path.Combine(folder, name));
        }
    }

    /// <summary>Stops making copies of a lesson that sounds otherwise by now, unless somebody waits for them.</summary>
    public async Task StopOutdatedAsync(VoiceMix mix)
    {
        if (running.TryGetValue(mix.Lesson, out var making) && making.Name != mix.Name && making.Followers <= 1)
        {
            await making.Stop.CancelAsync();
        }
    }

    private bool AreThere(VoiceMix mix) => Voice.CopyNames.All(n => File.Exists(Path.Combine(Folder(mix), n)));

    private string Folder(VoiceMix mix) => Path.Combine(files.Encoded(mix.Lesson), mix.Name);

    // Of one lesson one is made at a time; another sound waits for it.
    private Making Begin(VoiceMix mix) => running.AddOrUpdate(
        mix.Lesson,
        _ => new Making(mix.Name, making => MakeAsync(mix, making, null)),
        (_, before) => before.Name == mix.Name ? before : new Making(mix.Name, making => MakeAsync(mix, making, before)));

    private static async Task<bool> FollowAsync(Making making, Action<double> progress, CancellationToken cancel)
    {
        using var follower = making.Follow(progress);
        return await making.Task.WaitAsync(cancel);
    }

    private async Task<bool> MakeAsync(VoiceMix mix, Making making, Making? before)
    {
        try
        {
            if (before is not null)
            {
                await before.Task.ContinueWith(_ => { }, CancellationToken.None, TaskContinuationOptions.None, TaskScheduler.Default);
            }

            var root = Directory.CreateDirectory(files.Encoded(mix.Lesson)).FullName;
            var draft = Directory.CreateDirectory(Path.Combine(root, $"draft-{Guid.NewGuid():N}")).FullName;
            try
            {
                using var open = mix.Open(files);
                var made = await voice.WriteCopiesAsync(open.Levelled, mix.GainDb, mix.Filters, draft, making.Report, making.Stop.Token);
                LessonFiles.Discard(Folder(mix));
                Directory.Move(draft, Folder(mix));
                foreach (var old in Directory.EnumerateDirectories(root).Where(d => d != Folder(mix)).ToArray())
                {
                    LessonFiles.Discard(old);
                }

                return await voices.LearnAsync(mix, made.Lufs, CancellationToken.None);
            }
            finally
            {
                LessonFiles.Discard(draft);
            }
        }
        finally
        {
            running.TryRemove(new KeyValuePair<Guid, Making>(mix.Lesson, making));
            making.Stop.Dispose();
        }
    }

    /// <summary>Copies being made. They go on as long as anybody follows.</summary>
    private sealed class Making
    {
        private readonly Lazy<Task<bool>> task;
        private readonly ConcurrentDictionary<Follower, Action<double>> followers = new();

        public Making(string name, Func<Making, Task<bool>> work)
        {
            Name = name;
            task = new(() => System.Threading.Tasks.Task.Run(() => work(this)));
        }

        public string Name { get; }

        public CancellationTokenSource Stop { get; } = new();

        public Task<bool> Task => task.Value;

        public double Done { get; private set; }

        public int Followers => followers.Count;

        public void Report(double done)
        {
            Done = done;
            foreach (var progress in followers.Values)
            {
                progress(done);
            }
        }

        public IDisposable Follow(Action<double> progress)
        {
            var follower = new Follower(this);
            followers[follower] = progress;
            return follower;
        }

        private sealed class Follower(Making making) : IDisposable
        {
            public void Dispose()
            {
                if (making.followers.TryRemove(this, out _) && making.followers.IsEmpty && !making.Task.IsCompleted)
                {
                    making.Stop.Cancel();
                }
            }
        }
    }
}
