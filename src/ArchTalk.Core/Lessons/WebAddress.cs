namespace ArchTalk.Core.Lessons;

/// <summary>What counts as an address on the web: http or https, absolute.</summary>
public static class WebAddress
{
    public static bool Is(string address) => Uri.TryCreate(address, UriKind.Absolute, out var uri) && Is(uri);

    public static bool Is(Uri address) =>
        address.IsAbsoluteUri && (address.Scheme == Uri.UriSchemeHttp || address.Scheme == Uri.UriSchemeHttps) && address.Host.Length > 0;
}
