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

    /// <summary>Whether copies of a lesson are being made.</summary>
    public bool IsMaking(Guid lesson) => running.ContainsKey(lesson);

    /// <summary>Whether the copies of what is heard are there.</summary>
    public bool AreThere(VoiceMix mix) => Voice.CopyNames.All(n => File.Exists(Path.Combine(Folder(mix), n)));

    /// <summary>
    /// Makes the copies of a lesson ahead of time, unless they are there. It is stopped when the lesson sounds otherwise meanwhile and
    /// nobody waits for them.
    /// </summary>
    /// <exception cref="OperationCanceledException">It was stopped.</exception>
    public Task MakeAheadAsync(CompiledLesson compiled, CancellationToken cancel) => MakeAsync(compiled, null, cancel);

    /// <summary>
    /// Puts the copies of a lesson, the files of <see cref="Voice.CopyNames"/>, into a folder, without taking room for them twice. What is
    /// not there yet is made; what is being made is waited for.
    /// </summary>
    /// <param name="compiled">What is to be heard.</param>
    /// <param name="progress">Is told the share that is done.</param>
    public async Task PutAsync(CompiledLesson compiled, string folder, Action<double> progress, CancellationToken cancel)
    {
        for (var tries = 1; ; tries++)
        {
            try
            {
                var made = Folder(await MakeAsync(compiled, progress, cancel));
                foreach (var name in Voice.CopyNames)
                {
                    SharedFiles.Link(Path.Combine(made, name), Path.Combine(folder, name));
                }

                return;
            }
            catch (Exception e) when (e is FileNotFoundException or DirectoryNotFoundException && tries < MostTries)
            {
                // Others were made in their place just now.
            }
        }
    }

    /// <summary>Stops making copies of a lesson that sounds otherwise by now, unless somebody waits for them.</summary>
    public async Task StopOutdatedAsync(VoiceMix mix)
    {
        if (running.TryGetValue(mix.Lesson, out var making) && making.Name != mix.Name && !making.IsAwaited)
        {
            await making.Stop.CancelAsync();
        }
    }

    // How it sounds whose copies are there now.
    private async Task<VoiceMix> MakeAsync(CompiledLesson compiled, Action<double>? progress, CancellationToken cancel)
    {
        for (var tries = 1; ; tries++)
        {
            var mix = await voices.MixAsync(compiled, cancel);
            if (AreThere(mix))
            {
                return mix;
            }

            var making = Begin(mix);
            using var follower = making.Follow(progress);
            try
            {
                if (await making.Task.WaitAsync(cancel) || tries >= MostTries)
                {
                    return mix;
                }
            }
            catch (OperationCanceledException) when (progress is not null && !cancel.IsCancellationRequested)
            {
                // It had been begun ahead of time and was being stopped when it was joined here.
            }
        }
    }

    private string Folder(VoiceMix mix) => Path.Combine(files.Encoded(mix.Lesson), mix.Name);

    // Of one lesson one is made at a time; another sound waits for it.
    private Making Begin(VoiceMix mix) => running.AddOrUpdate(
        mix.Lesson,
        _ => new Making(mix.Name, making => MakeAsync(mix, making, null)),
        (_, before) => before.Name == mix.Name ? before : new Making(mix.Name, making => MakeAsync(mix, making, before)));

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
        }
    }

    /// <summary>Copies being made. They go on as long as anybody follows.</summary>
    private sealed class Making
    {
        private readonly Lazy<Task<bool>> task;
        private readonly ConcurrentDictionary<Follower, Action<double>?> followers = new();

        public Making(string name, Func<Making, Task<bool>> work)
        {
            Name = name;
            task = new(() => System.Threading.Tasks.Task.Run(() => work(this)));
        }

        public string Name { get; }

        public CancellationTokenSource Stop { get; } = new();

        public Task<bool> Task => task.Value;

        /// <summary>Whether anybody wants to know how far it is.</summary>
        public bool IsAwaited => followers.Values.Any(p => p is not null);

        public void Report(double done)
        {
            foreach (var progress in followers.Values)
            {
                progress?.Invoke(done);
            }
        }

        public IDisposable Follow(Action<double>? progress)
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
