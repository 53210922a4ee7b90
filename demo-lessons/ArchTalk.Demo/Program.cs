using ArchTalk.Demo;

// Makes the demo teacher and the demo lessons. Arguments: the data folder, the repository's root.
if (args is not [var dataFolder, var root])
{
    Console.Error.WriteLine("Usage: ArchTalk.Demo <data folder> <repository root>");
    return 2;
}

await DemoBuilder.BuildAsync(dataFolder, root);
return 0;
