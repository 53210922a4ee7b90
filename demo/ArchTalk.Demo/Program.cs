using ArchTalk.Demo;
using ArchTalk.Web.Setup;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Logging;

// Makes the demo teacher and both demo lessons through the services the web application uses.
// Arguments: the data folder, the repository's root.
if (args is not [var dataFolder, var root])
{
    Console.Error.WriteLine("Usage: ArchTalk.Demo <data folder> <repository root>");
    return 2;
}

var services = new ServiceCollection();
services.AddLogging(l => l.AddSimpleConsole().SetMinimumLevel(LogLevel.Warning));
services.AddArchTalkServices(new ArchTalkOptions { DataFolder = Path.GetFullPath(dataFolder) }, root);
await using var provider = services.BuildServiceProvider();
await using var scope = provider.CreateAsyncScope();
var builder = new DemoBuilder(scope.ServiceProvider, root);
await builder.RunAsync();
return 0;
