namespace Nachlass.Core.Sift;

/// <summary>The order in which a pile is gone through.</summary>
public enum PileOrder
{
    Origin,
    Newest,
    Oldest,
    Topic,
    Worth,
}
