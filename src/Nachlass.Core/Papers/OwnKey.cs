using System.Text.RegularExpressions;

namespace Nachlass.Core.Papers;

/// <summary>A key that the writer gave to something the app does.</summary>
/// <param name="Action">What it does, by the screen and a word: <c>sift.keep</c>.</param>
/// <param name="Keys">The key with what is held beside it: <c>k</c>, <c>Ctrl+Shift+Enter</c>.</param>
public sealed partial record OwnKey(string Action, string Keys)
{
    /// <summary>Itself, when it can be kept.</summary>
    /// <exception cref="BadInputException">It names nothing the app could do, or no key.</exception>
    public OwnKey Checked() =>
        !Named().IsMatch(Action) ? throw new BadInputException("action", $"“{Action}” names nothing that a key could do.")
        : !Pressed().IsMatch(Keys) ? throw new BadInputException("keys", "A key is one sign or the name of a key, such as k or Ctrl+Enter.")
        : this;

    [GeneratedRegex(@"^[a-z]{2,20}\.[a-zA-Z-]{1,40}$")]
    private static partial Regex Named();

    [GeneratedRegex(@"^(?:Ctrl\+)?(?:Alt\+)?(?:Shift\+)?(?:[^\s\p{C}]|[A-Z][A-Za-z0-9]{1,15})$")]
    private static partial Regex Pressed();
}
