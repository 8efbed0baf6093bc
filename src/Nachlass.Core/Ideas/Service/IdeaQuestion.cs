using Nachlass.Core.Papers;

namespace Nachlass.Core.Ideas.Service;

/// <summary>A text of the writer's that a service may make ideas from.</summary>
/// <param name="Of">What it is; its title is kept here and not sent.</param>
public sealed record QuestionNote(IdeaOrigin Of, string Text)
{
    /// <summary>What it is called in a question, and what an answer calls it: <c>slip 12</c>.</summary>
    public string Name => $"{Of.Kind.ToString().ToLowerInvariant()} {Of.Number}";
}

/// <summary>A topic on which ideas are asked for.</summary>
/// <param name="Terms">What its texts say more than all others.</param>
public sealed record QuestionTopic(TopicNumber Number, string Name, IReadOnlyList<string> Terms, IReadOnlyList<QuestionNote> Notes);

/// <summary>What a service of ideas is asked, and all that it is told.</summary>
/// <param name="Format">The name of the format they are wanted for; empty for any.</param>
/// <param name="Outlet">Where they are to go out; empty for anywhere.</param>
/// <param name="Period">For which days; null for any.</param>
/// <param name="Language">In which language, by its tag (BCP 47).</param>
/// <param name="Exists">What is there already, and is not to be proposed again.</param>
public sealed record IdeaQuestion(
    int Count,
    int Seed,
    string Format,
    string Audience,
    string Outlet,
    IdeaPeriod? Period,
    string Language,
    IReadOnlyList<QuestionTopic> Topics,
    IReadOnlyList<string> Exists
);

/// <summary>Days for which ideas are wanted.</summary>
public sealed record IdeaPeriod(DateOnly From, DateOnly To)
{
    /// <summary>How long it may be, in days.</summary>
    public const int Longest = 400;

    /// <exception cref="BadInputException">It ends before it begins, or is too long.</exception>
    public IdeaPeriod Checked()
    {
        if (!Check.IsDay(From) || !Check.IsDay(To) || To < From)
            throw new BadInputException("period", "The period ends before it begins.");
        if (To.DayNumber - From.DayNumber > Longest)
            throw new BadInputException("period", $"The period is longer than {Longest} days.");
        return this;
    }
}
