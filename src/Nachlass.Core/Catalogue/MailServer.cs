using Nachlass.Core.Papers;

namespace Nachlass.Core.Catalogue;

/// <summary>The addresses of mail servers.</summary>
public static class MailServer
{
    /// <summary>A server as typed, such as <c>mail.example</c> or <c>mail.example:587</c>, as <c>scheme://host:port</c>.</summary>
    /// <param name="scheme">What is spoken there: <c>smtp</c> or <c>imap</c>.</param>
    /// <param name="usual">The port when none is said.</param>
    /// <exception cref="BadInputException">It is none.</exception>
    public static string Checked(string scheme, string? typed, int usual)
    {
        var said = Check.Text("address", typed?.Trim(), 300);
        if (said.StartsWith($"{scheme}://", StringComparison.OrdinalIgnoreCase))
            said = said[(scheme.Length + 3)..];
        return
            Uri.TryCreate($"{scheme}://{said}", UriKind.Absolute, out var at)
            && at.Host.Length > 0
            && at.UserInfo.Length == 0
            && at.AbsolutePath is "" or "/"
            ? $"{scheme}://{at.Host}:{(at.Port > 0 ? at.Port : usual)}"
            : throw new BadInputException("address", $"“{said}” is no mail server; one looks like mail.example:{usual}.");
    }
}
