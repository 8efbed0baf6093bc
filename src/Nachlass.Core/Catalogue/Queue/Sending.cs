using Nachlass.Core.Bench;
using Nachlass.Core.Catalogue.Letters;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;

namespace Nachlass.Core.Catalogue.Queue;

/// <summary>The number of something that is to be sent.</summary>
public readonly record struct SendingNumber(int Value) : INumber<SendingNumber>
{
    public static SendingNumber Of(int value) => new(value);

    public static bool TryParse(string? text, out SendingNumber number) => NumberText.TryParse(text, out number);

    public override string ToString() => NumberText.Format(Value);
}

/// <summary>Where something in the queue stands.</summary>
public enum SendingState
{
    /// <summary>Its time has not come, or the next attempt's has not.</summary>
    Waits,

    /// <summary>It is being sent, or was when the program ended.</summary>
    Tries,

    /// <summary>Its writer has to say how it goes on.</summary>
    Asks,
    Sent,

    /// <summary>It was refused, or tried often enough.</summary>
    GaveUp,
}

/// <summary>Where a part of it stands.</summary>
public enum PartState
{
    Waits,

    /// <summary>It was sent and no answer has been heard; before it is sent again, it is looked for.</summary>
    Tries,
    Sent,
}

/// <summary>What goes out by itself: a post of a thread, or the whole.</summary>
/// <param name="Nth">Its place, from 1.</param>
/// <param name="Key">By which the outlet is asked whether it has it; never used for anything else.</param>
/// <param name="Text">As Markdown.</param>
/// <param name="Address">Where it can be read; empty until it is sent.</param>
public sealed record SendingPart(int Nth, string Key, string Text, PartState State, string Address);

/// <summary>How something is seen where it goes out: as a text that is set, or as the very words that are sent.</summary>
/// <param name="From">From whom it comes; empty where that is not seen.</param>
/// <param name="Title">Empty where it goes without one.</param>
/// <param name="Html">Its text as it is set; empty where it goes as words.</param>
/// <param name="Words">The words; empty where they are set.</param>
/// <param name="Foot">What stands below it, added by what sends it; empty for nothing.</param>
public sealed record ShownPart(string From, string Title, string Html, string Words, string Foot = "");

/// <summary>An attempt.</summary>
/// <param name="Nth">The part it was for.</param>
/// <param name="Outcome">What became of it, by the name of its <see cref="Queue.Outcome"/>.</param>
public sealed record SendingTry(int Nth, DateTimeOffset At, string Outcome, string Note);

/// <summary>A piece that is to go out on an outlet, or went.</summary>
public sealed record Sending
{
    public required SendingNumber Number { get; init; }
    public required PieceNumber Piece { get; init; }
    public required OutletNumber Outlet { get; init; }
    public required string Title { get; init; }

    /// <summary>The text as it is sent, as Markdown.</summary>
    public required string Text { get; init; }

    /// <summary>The picture that goes with it there; null for none.</summary>
    public SentPicture? Picture { get; init; }

    /// <summary>When it is to go out.</summary>
    public required DateTimeOffset At { get; init; }

    public SendingState State { get; init; }

    /// <summary>Attempts that came to nothing since it last got on.</summary>
    public int Tries { get; init; }

    public required DateTimeOffset NextTry { get; init; }

    /// <summary>What is wrong, in a sentence; empty when nothing is.</summary>
    public string Problem { get; init; } = "";

    /// <summary>The release it became; null until it is sent.</summary>
    public ReleaseNumber? Release { get; init; }

    public IReadOnlyList<SendingPart> Parts { get; init; } = [];
    public IReadOnlyList<SendingTry> History { get; init; } = [];

    /// <summary>How the letters to its readers stand; null where it is no letter, or has not been begun.</summary>
    public LetterCount? Letters { get; init; }
}
