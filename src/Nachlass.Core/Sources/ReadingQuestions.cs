using Nachlass.Core.Papers;

namespace Nachlass.Core.Sources;

/// <summary>The questions a writer puts to everything read; comments are prompted by those that have no answer yet.</summary>
public static class ReadingQuestions
{
    public const int Most = 20;
    public const int Longest = 200;

    /// <summary>The questions papers begin with.</summary>
    public static readonly IReadOnlyList<string> Ready =
    [
        "What does it change?",
        "What does it contradict?",
        "Where would it be used?",
        "What should be checked?",
    ];

    /// <summary>The questions cleaned: without empty ones, each once.</summary>
    /// <exception cref="BadInputException">There are too many, or one is too long.</exception>
    public static IReadOnlyList<string> Clean(IEnumerable<string> typed)
    {
        List<string> questions =
        [
            .. typed.Select(q => q.Trim().TrimStart('#').Trim()).Where(q => q.Length > 0).Distinct(StringComparer.OrdinalIgnoreCase),
        ];
        if (questions.Count > Most)
            throw new BadInputException("questions", $"There can be at most {Most} questions.");
        foreach (var question in questions)
            Check.Length("questions", question, Longest);
        return questions;
    }

    /// <summary>Those that the comments do not answer yet, in order.</summary>
    public static IReadOnlyList<string> Open(IReadOnlyList<string> questions, string comments) =>
        [
            .. questions.Where(question =>
                !comments.Split('\n').Any(line => line.Trim().Equals(Heading(question), StringComparison.OrdinalIgnoreCase))
            ),
        ];

    /// <summary>Comments with an answer under its question.</summary>
    public static string Answer(string comments, string question, string answer) =>
        (comments.TrimEnd() + "\n\n" + Heading(question) + "\n" + answer.Trim()).Trim();

    private static string Heading(string question) => $"**{question}**";
}
