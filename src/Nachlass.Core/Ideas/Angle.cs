using Nachlass.Core.Text;

namespace Nachlass.Core.Ideas;

/// <summary>What an idea can be made from.</summary>
public enum SparkKind
{
    /// <summary>A term that is characteristic of a topic.</summary>
    Term,

    /// <summary>Something readers want.</summary>
    Ask,

    /// <summary>An occasion that comes.</summary>
    Occasion,

    /// <summary>A topic and a format that never met.</summary>
    Empty,

    /// <summary>Two topics that share sources and no piece.</summary>
    Pair,

    /// <summary>A question of the writer's that nothing answers yet.</summary>
    Question,

    /// <summary>Two passages that speak against each other.</summary>
    Opposed,

    /// <summary>A dropped slip that something new reads like.</summary>
    Dropped,

    /// <summary>A release that could have a sequel.</summary>
    Sequel,

    /// <summary>Whatever a service made it from; no angle is laid over it.</summary>
    Service,
}

/// <summary>A way to look at something.</summary>
/// <param name="Shape">What it is called: <i>how it began</i>.</param>
/// <param name="For">What it can be laid over.</param>
/// <param name="Wording">In Liquid; what can be filled in is told by <see cref="Angles.Places"/>.</param>
/// <param name="IsOff">Whether it is kept but not used.</param>
public sealed record Angle(string Shape, SparkKind For, string Wording, bool IsOff = false)
{
    public const int LongestShape = 60,
        LongestWording = 400;
}

/// <summary>The stock of angles.</summary>
public static class Angles
{
    /// <summary>What an angle for each kind may fill in.</summary>
    public static IReadOnlyList<string> Places(SparkKind kind) =>
        kind switch
        {
            SparkKind.Term => ["term", "any", "word", "topic"],
            SparkKind.Ask => ["ask", "topic"],
            SparkKind.Occasion => ["occasion", "month", "topic", "term"],
            SparkKind.Empty => ["format", "form", "topic"],
            SparkKind.Pair => ["topic", "other"],
            SparkKind.Question => ["question", "topic"],
            SparkKind.Opposed => ["first", "second", "topic"],
            SparkKind.Dropped => ["slip", "topic"],
            SparkKind.Service => [],
            _ => ["release", "year", "topic"],
        };

    /// <summary>The angles papers begin with. They ask and propose; none says what is so.</summary>
    public static readonly IReadOnlyList<Angle> Ready =
    [
        new("how it began", SparkKind.Term, "How {{ term }} began, and how people managed before"),
        new("who lost", SparkKind.Term, "Who lost by {{ term }}"),
        new("what it costs", SparkKind.Term, "What {{ term }} cost, counted in hours and not in money"),
        new("the usual mistake", SparkKind.Term, "The mistake everyone makes about {{ term }}, me included"),
        new("one day", SparkKind.Term, "A single day with {{ term }}, from first light to last"),
        new("against the received view", SparkKind.Term, "Everybody says the same about {{ term }}. What if the opposite were true?"),
        new("one object", SparkKind.Term, "{{ topic }}, seen through one thing: {{ any }}"),
        new("a letter", SparkKind.Term, "A letter to somebody who has never seen {{ any }}"),
        new("the last who remember", SparkKind.Term, "Who still remembers a time without {{ term }}?"),
        new("the word itself", SparkKind.Term, "The word “{{ word }}”: who said it first, and what did they mean?"),
        new("if it had not been", SparkKind.Term, "If there had never been {{ any }}: what would we do instead?"),
        new("not understood", SparkKind.Term, "What I still do not understand about {{ term }}"),
        new("close by", SparkKind.Term, "{{ term }} from so near that nothing else is in the picture"),
        new("who decides", SparkKind.Term, "Who has the say over {{ term }}, and who only thinks so"),
        new("told to a child", SparkKind.Term, "{{ term }}, told to a child of nine who keeps asking why"),
        new("small things", SparkKind.Term, "Seven small things about {{ term }} that one notices only the second time"),
        new("a reader asks", SparkKind.Ask, "{{ ask }} An answer in full, with what I don’t know marked"),
        new("whom to ask", SparkKind.Ask, "{{ ask }} Whom one would have to ask, and in which order"),
        new("what the question hides", SparkKind.Ask, "{{ ask }} And what one really wants to know when asking that"),
        new("the short way", SparkKind.Ask, "{{ ask }} In three sentences, and then the long way round"),
        new("with those who ask", SparkKind.Ask, "{{ ask }} Answered together with those who ask, each with a paragraph"),
        new("for the day", SparkKind.Occasion, "For {{ occasion }}: {{ topic }} on that one day, then and now"),
        new(
            "before everyone else",
            SparkKind.Occasion,
            "A fortnight before {{ occasion }}: what nobody will say about {{ topic }} on the day itself"
        ),
        new("one thing on the day", SparkKind.Occasion, "{{ occasion }}, seen from {{ term }}"),
        new("who works that day", SparkKind.Occasion, "Who is at work on {{ occasion }}, and what {{ term }} is to them"),
        new(
            "if it fell through",
            SparkKind.Occasion,
            "If there were no {{ occasion }} this year: who would miss it, and what would become of {{ term }}?"
        ),
        new("the day after", SparkKind.Occasion, "The day after {{ occasion }}: what is left of {{ term }}"),
        new("never in this form", SparkKind.Empty, "{{ topic }} as {{ format }}, for once"),
        new("the smallest that works", SparkKind.Empty, "The smallest {{ form }} on {{ topic }} that would be worth its while"),
        new("one place, one hour", SparkKind.Empty, "{{ topic }} as {{ format }}: one place, one hour, nothing else"),
        new("where two meet", SparkKind.Pair, "Where {{ topic }} and {{ other }} meet, and who stands there"),
        new("one through the other", SparkKind.Pair, "{{ topic }}, explained by nothing but {{ other }}"),
        new("in each other’s way", SparkKind.Pair, "A day on which {{ topic }} and {{ other }} are in each other’s way"),
        new("what one would have to see", SparkKind.Question, "{{ question }} What one would have to see to know"),
        new("an honest half", SparkKind.Question, "{{ question }} Half an answer, and where the other half may lie"),
        new("wrong answers first", SparkKind.Question, "{{ question }} Three wrong answers, and what each gives away"),
        new("two who would differ", SparkKind.Question, "{{ question }} Two people who would answer at once, and not the same"),
        new("how one comes to ask", SparkKind.Question, "{{ question }} How I came to ask, and what lay in front of me"),
        new("where I looked", SparkKind.Question, "{{ question }} Everywhere I looked, in order, and what was there instead"),
        new("if nobody can know", SparkKind.Question, "{{ question }} What follows if nobody can know any more"),
        new("put to readers", SparkKind.Question, "{{ question }} Put to readers, with all there is so far"),
        new("two against each other", SparkKind.Opposed, "“{{ first }}” or “{{ second }}”? Both heard out"),
        new("which of them saw it", SparkKind.Opposed, "“{{ first }}” against “{{ second }}”: which of the two was there?"),
        new("what both leave out", SparkKind.Opposed, "“{{ first }}” and “{{ second }}”: what both leave out"),
        new("once more, otherwise", SparkKind.Dropped, "Dropped once, and perhaps too soon: {{ slip }}"),
        new("what became of it", SparkKind.Sequel, "What has become of “{{ release }}” since {{ year }}"),
        new("the other side", SparkKind.Sequel, "“{{ release }}”, told by somebody who stood on the other side"),
        new("written again", SparkKind.Sequel, "“{{ release }}”, and what I would write otherwise today"),
        new("what did not fit", SparkKind.Sequel, "What did not fit into “{{ release }}”"),
        new("just before", SparkKind.Sequel, "What happened just before “{{ release }}” begins"),
        new("what a reader might know", SparkKind.Sequel, "What a reader might know better about “{{ release }}”"),
    ];

    /// <summary>Why an angle can't be used; null when it can.</summary>
    public static string? Fault(Angle angle)
    {
        if (Places(angle.For).Count == 0)
            return "There is nothing that it could fill in.";
        var facts = Places(angle.For).ToDictionary(place => place, place => (object)place);
        var filled = FillIn.Fill(angle.Wording, facts);
        if (filled.Fault is { } fault)
            return fault.Reason;
        return facts.Values.Any(place => filled.Text.Contains((string)place, StringComparison.OrdinalIgnoreCase))
            ? null
            : $"It fills in nothing; there is {string.Join(", ", facts.Keys)}.";
    }
}
