using System.Net;
using System.Threading.RateLimiting;
using ArchTalk.Core.Boards.Items;
using ArchTalk.Data;
using ArchTalk.Data.Entities;
using ArchTalk.Data.Files;
using ArchTalk.Media;
using ArchTalk.Media.Boxes;
using ArchTalk.Web.Boards;
using ArchTalk.Web.Endpoints;
using ArchTalk.Web.Jobs;
using ArchTalk.Web.Lessons;
using ArchTalk.Web.Publishing;
using ArchTalk.Web.Recording;
using ArchTalk.Web.Timelines;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.HostFiltering;
using Microsoft.AspNetCore.HttpOverrides;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.OutputCaching;
using Microsoft.AspNetCore.ResponseCompression;
using Microsoft.EntityFrameworkCore;

namespace ArchTalk.Web.Setup;

/// <summary>Puts the application together. The demo's builder uses the same services as the web application.</summary>
public static class ArchTalkSetup
{
    // A board of 300 items, some of them formulas as outlines.
    private const int LargestBody = 4 << 20;
    private const int MostConnections = 2_000;

    /// <summary>The name of the rate limit on recorders, who are known by their take's token only.</summary>
    public const string RecordersLimit = "recorders";

    /// <summary>The services that do the work, without anything of the web.</summary>
    /// <param name="fonts">The folder of the pages' fonts, for measuring writing.</param>
    public static IServiceCollection AddArchTalkServices(this IServiceCollection services, ArchTalkOptions options, string contentRoot, string fonts)
    {
        var files = new LessonFiles(Path.Combine(contentRoot, options.DataFolder));
        services.AddSingleton(files);
        services.AddSingleton(options);
        services.AddSingleton(options.Limits);
        services.AddSingleton(options.Programs);
        services.AddSingleton<ITextMeasure>(_ => new SkiaTextMeasure(fonts)).AddSingleton<ItemDrawings>();
        services.AddSingleton(new Box(options.Box, options.Limits, files.Root));
        services.AddSingleton<DeckLooks>().AddSingleton<PageReader>().AddSingleton<Pictures>().AddSingleton<Scans>().AddSingleton<Clips>()
            .AddSingleton<Voice>()
            .AddSingleton<Importers>();
        services.AddSingleton(TimeProvider.System);
        services.AddDbContextFactory<ArchTalkDb>(db => DatabaseSetup.Configure(db, files.Database));
        services.AddScoped(p => p.GetRequiredService<IDbContextFactory<ArchTalkDb>>().CreateDbContext());
        services.AddIdentityCore<Teacher>(identity =>
            {
                identity.Password.RequiredLength = 10;
                identity.Password.RequireDigit = identity.Password.RequireUppercase =
                    identity.Password.RequireLowercase = identity.Password.RequireNonAlphanumeric = false;
                identity.User.RequireUniqueEmail = true;
            })
            .AddEntityFrameworkStores<ArchTalkDb>();
        services.AddScoped<DiskService>();
        services.AddScoped<LessonService>().AddScoped<SectionService>().AddScoped<BoardService>().AddScoped<PublishingService>();
        services.AddScoped<ItemService>().AddScoped<BoardPictures>().AddScoped<SeenService>().AddScoped<VocabularyService>()
            .AddScoped<AttachmentService>().AddScoped<SettlingService>();
        services.AddSingleton<PublicationFiles>().AddSingleton<WatchIndex>().AddSingleton<TakeJournals>().AddScoped<RecordingService>();
        services.AddSingleton(new ComputedCache(options.CompiledBytes)).AddSingleton<LessonCompiler>().AddSingleton<TakeSounds>()
            .AddSingleton<LessonVoices>().AddSingleton<ChapterProposals>().AddSingleton<VoiceCopies>();
        services.AddScoped<RefineService>();
        services.AddSingleton<JobSignal>().AddScoped<JobService>().AddScoped<Leftovers>().AddSingleton<JobRunner>();
        foreach (var kind in ImportJob.Kinds)
        {
            services.AddKeyedScoped<IJobHandler, ImportJob>(kind);
        }

        services.AddKeyedScoped<IJobHandler, ReadJob>(JobKind.Read);
        services.AddKeyedScoped<IJobHandler, PublishJob>(JobKind.Publish);
        return services;
    }

    /// <summary>Everything the web application needs.</summary>
    public static void AddArchTalk(this WebApplicationBuilder builder)
    {
        var options = builder.Configuration.GetSection(ArchTalkOptions.Section).Get<ArchTalkOptions>() ?? new ArchTalkOptions();
        builder.WebHost.ConfigureKestrel(k =>
        {
            k.AddServerHeader = false;

            // Whoever sends more says so by its address; see Upload.
            k.Limits.MaxRequestBodySize = LargestBody;
            k.Limits.MaxConcurrentConnections = MostConnections;
            k.Limits.RequestHeadersTimeout = TimeSpan.FromSeconds(15);
        });
        var services = builder.Services;
        services.AddArchTalkServices(
            options,
            builder.Environment.ContentRootPath,
            Path.Combine(builder.Environment.ContentRootPath, "wwwroot", "app", "fonts"));
        services.AddHostedService<JobWorker>().AddHostedService<VoiceWorker>();
        services.AddDataProtection().SetApplicationName("ArchTalk").PersistKeysToFileSystem(
            new DirectoryInfo(Path.Combine(builder.Environment.ContentRootPath, options.DataFolder, "keys")));
        services.AddAuthentication(IdentityConstants.ApplicationScheme).AddIdentityCookies(cookies => cookies.ApplicationCookie!.Configure(cookie =>
        {
            cookie.LoginPath = "/sign-in";
            cookie.AccessDeniedPath = "/sign-in";
            cookie.Cookie.Name = "archtalk";
            cookie.ExpireTimeSpan = TimeSpan.FromDays(14);
            cookie.Events.OnRedirectToLogin = context =>
            {
                // Scripts get an answer they can act on; people get the sign-in page.
                if (context.Request.Path.StartsWithSegments("/api", StringComparison.Ordinal))
                {
                    context.Response.StatusCode = StatusCodes.Status401Unauthorized;
                }
                else
                {
                    // Without the host, which the request itself has named.
                    context.Response.Redirect(new Uri(context.RedirectUri).PathAndQuery);
                }

                return Task.CompletedTask;
            };
        }));
        services.AddSingleton<Sessions>().AddSingleton<SignInLimits>();
        services.AddOptions<CookieAuthenticationOptions>(IdentityConstants.ApplicationScheme)
            .Configure<Sessions>((cookie, sessions) => cookie.SessionStore = sessions);
        services.AddHsts(h => h.MaxAge = TimeSpan.FromDays(365));
        services.Configure<HostFilteringOptions>(h => h.AllowedHosts = Hosts(options));
        services.AddExceptionHandler<Faults>();
        services.ConfigureHttpJsonOptions(
            json => json.SerializerOptions.RespectNullableAnnotations = json.SerializerOptions.RespectRequiredConstructorParameters = true);
        services.AddAuthorization();
        services.AddHttpContextAccessor();
        new IdentityBuilder(typeof(Teacher), services).AddSignInManager();
        var (headers, svgHeaders) = (Headers(), SvgHeaders());
        services.AddSecurityHeaderPolicies().SetDefaultPolicy(headers)
            .SetPolicySelector(context => IsOwnSvg(context.HttpContext.Request.Path) ? svgHeaders : headers);
        services.AddAntiforgery(a => a.HeaderName = "X-Antiforgery");
        services.AddRazorPages(pages => pages.Conventions.AuthorizeFolder("/").AllowAnonymousToPage("/SignIn").AllowAnonymousToPage("/FirstRun")
            .AllowAnonymousToPage("/Watch").AllowAnonymousToPage("/Error"));
        services.AddResponseCompression(c =>
        {
            c.EnableForHttps = true;
            c.MimeTypes = [.. ResponseCompressionDefaults.MimeTypes, "text/vtt", "application/ld+json"];
        });
        services.AddSingleton<WatchPagePolicy>();
        services.AddOutputCache();
        services.AddOptions<OutputCacheOptions>()
            .Configure<WatchPagePolicy>((cache, policy) => cache.AddPolicy(nameof(WatchPagePolicy), policy));
        services.AddRateLimiter(limits =>
        {
            limits.RejectionStatusCode = StatusCodes.Status429TooManyRequests;
            limits.AddPolicy(RecordersLimit, context => RateLimitPartition.GetTokenBucketLimiter(
                context.Connection.RemoteIpAddress?.ToString() ?? "unknown",
                _ => new TokenBucketRateLimiterOptions
                {
                    TokenLimit = 3 * options.UploadsPerSecond,
                    TokensPerPeriod = options.UploadsPerSecond,
                    ReplenishmentPeriod = TimeSpan.FromSeconds(1),
                }));
        });
        services.Configure<ForwardedHeadersOptions>(f =>
        {
            f.ForwardedHeaders = options.BehindProxy ? ForwardedHeaders.XForwardedFor | ForwardedHeaders.XForwardedProto : ForwardedHeaders.None;
            foreach (var proxy in options.KnownProxies)
            {
                f.KnownProxies.Add(IPAddress.Parse(proxy));
            }
        });
    }

    /// <summary>The order in which a request goes through the application.</summary>
    public static void UseArchTalk(this WebApplication app)
    {
        app.UseForwardedHeaders();
        app.UseHsts();
        app.UseSecurityHeaders();
        app.UseExceptionHandler("/error");
        app.UseWhen(Faults.IsForScripts, branch => branch.UseStatusCodePages(Faults.WriteAsync));
        app.UseWhen(c => !Faults.IsForScripts(c), branch => branch.UseStatusCodePagesWithReExecute("/error", "?status={0}"));
        app.UseMiddleware<KnownMethods>();
        app.UseWhen(c => IsText(c) && !IsWatched(c), branch => branch.UseResponseCompression());
        app.UseStaticFiles(new StaticFileOptions
        {
            OnPrepareResponse = file => file.Context.Response.Headers.CacheControl =
                file.Context.Request.Query.ContainsKey("v") ? "public, max-age=31536000, immutable" : "no-cache",
        });
        app.UseRouting();

        // The students' page is kept as it is sent, compressed.
        app.UseOutputCache();
        app.UseWhen(c => IsText(c) && IsWatched(c), branch => branch.UseResponseCompression());
        app.UseRateLimiter();
        app.UseAuthentication();
        app.UseMiddleware<FirstRunRedirect>();
        app.UseAuthorization();
        app.UseAntiforgery();
        app.MapRazorPages();
        app.MapBoardEndpoints();
        app.MapItemEndpoints();
        app.MapVocabularyEndpoints();
        app.MapAttachmentEndpoints();
        app.MapSectionEndpoints();
        app.MapRecordEndpoints();
        app.MapTimelineEndpoints();
        app.MapRefineEndpoints();
        app.MapPublishEndpoints();
        app.MapWatchEndpoints();
    }

    private static bool IsText(HttpContext context) => !WatchEndpoints.IsMedia(context.Request.Path);

    private static bool IsWatched(HttpContext context) => context.Request.Path.StartsWithSegments("/w", StringComparison.OrdinalIgnoreCase);

    // Whoever knows the server by another name is not answered, once it has a name.
    private static string[] Hosts(ArchTalkOptions options) =>
        Uri.TryCreate(options.PublicBaseUrl, UriKind.Absolute, out var address) ? [address.Host, "localhost", "127.0.0.1", "[::1]"] : ["*"];

    // Pictures that teachers brought, under a lesson or a publication; not the application's own icons.
    private static bool IsOwnSvg(PathString path) =>
        path.Value is { } value && value.EndsWith(".svg", StringComparison.OrdinalIgnoreCase)
        && (path.StartsWithSegments("/lessons", StringComparison.OrdinalIgnoreCase)
            || path.StartsWithSegments("/w", StringComparison.OrdinalIgnoreCase));

    // They are shown as images only; opened by themselves they can do nothing.
    private static HeaderPolicyCollection SvgHeaders() => new HeaderPolicyCollection()
        .AddContentTypeOptionsNoSniff()
        .AddContentSecurityPolicy(csp =>
        {
            csp.AddDefaultSrc().None();
            csp.AddStyleSrc().UnsafeInline();
            csp.AddImgSrc().Data();
            csp.AddSandbox();
        });

    private static HeaderPolicyCollection Headers() => new HeaderPolicyCollection()
        .AddFrameOptionsSameOrigin()
        .AddContentTypeOptionsNoSniff()
        .AddReferrerPolicyStrictOriginWhenCrossOrigin()
        .AddCrossOriginOpenerPolicy(p => p.SameOrigin())
        .AddPermissionsPolicy(p =>
        {
            p.AddMicrophone().Self();
            p.AddCamera().Self();
            p.AddGeolocation().None();
        })
        .AddContentSecurityPolicy(csp =>
        {
            csp.AddDefaultSrc().Self();
            csp.AddImgSrc().Self().Data().Blob();
            csp.AddMediaSrc().Self().Blob();
            csp.AddScriptSrc().Self();
            csp.AddStyleSrc().Self();
            csp.AddFontSrc().Self();
            csp.AddConnectSrc().Self();
            csp.AddWorkerSrc().Self();
            csp.AddObjectSrc().None();
            csp.AddBaseUri().Self();
            csp.AddFormAction().Self();
            csp.AddFrameAncestors().Self();
        });
}
