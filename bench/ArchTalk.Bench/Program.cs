using System.Globalization;
using ArchTalk.Bench;

CultureInfo.DefaultThreadCurrentCulture = CultureInfo.CurrentCulture = CultureInfo.InvariantCulture;

// The measurements that the README quotes. With a name, only that one is made.
var all = new (string Name, Func<Task> Run)[]
{
    ("compile", CompileBench.RunAsync),
    ("journal", JournalBench.RunAsync),
    ("import", ImportBench.RunAsync),
    ("film", FilmBench.RunAsync),
    ("variants", VariantsBench.RunAsync),
    ("box", BoxBench.RunAsync),
    ("prepare", PrepareBench.RunAsync),
    ("seek", SeekBench.RunAsync),
    ("ink", InkBench.RunAsync),
    ("record", RecordBench.RunAsync),
    ("retake", RetakeBench.RunAsync),
    ("settle", SettleBench.RunAsync),
    ("refine", RefineBench.RunAsync),
    ("cleaning", CleaningBench.RunAsync),
    ("voice", VoiceBench.RunAsync),
    ("watch", WatchBench.RunAsync),
    ("joins", JoinsBench.RunAsync),
    ("strangers", StrangersBench.RunAsync),
    ("survival", SurvivalBench.RunAsync),
};
foreach (var (name, run) in all.Where(b => args.Length == 0 || args.Contains(b.Name)))
{
    Console.WriteLine($"== {name}");
    await run();
}

return 0;
