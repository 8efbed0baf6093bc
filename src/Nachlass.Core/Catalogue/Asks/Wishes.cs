using System.Collections.Frozen;
using System.Text.RegularExpressions;
using Nachlass.Core.Text;

namespace Nachlass.Core.Catalogue.Asks;

/// <summary>Finds in a reader's message the sentences that wish for something or ask something of its writer.</summary>
/// <remarks>
/// By rules, since a writer has to be able to see why: a sentence that ends in a question mark, or that opens with one of the phrases
/// people wish with, unless it is good manners, an arrangement between two people, a question that wants no answer, or someone else's.
/// How often that is right is measured on labelled messages in the bench.
/// </remarks>
public static partial class Wishes
{
    /// <summary>So many of one message are looked at; a longer letter is read by its writer.</summary>
    public const int MostOfOne = 12;

    private const int Longest = 600;

    /// <summary>Words that wish and ask, and say nothing of what is wished; as they stand, not by their stems.</summary>
    private static readonly FrozenSet<string> Asking = FrozenSet.ToFrozenSet(
        (
            "anybody anyone anything somebody someone something everything nothing thing things always never ever really actually "
            + "also just even still maybe perhaps possibly sometimes sometime someday soon again already today please thank thanks "
            + "dear hello know knows knew known wonder wondering wondered wonders curious interested interesting love loved like liked "
            + "want wanted wish wished wishes wishing hope hoping hoped ask asked asking question questions answer answers tell tells "
            + "telling told say says said explain explained explains explaining explanation describe understand understood mean means "
            + "meant read reading reads hear hearing heard see seen learn write writes writing wrote written piece pieces essay essays "
            + "article articles post posts letter letters newsletter episode episodes issue issues series chance good great lovely "
            + "nice wonderful helpful fascinating fascinated day time way ways bit lot sort kind idea ideas thought thoughts think "
            + "thinking guess suppose sure true exactly next future consider considered mention mentioned mentions cover covered "
            + "covering touch bring come back go going look looking forward give given take make made get gets getting people "
            + "reader readers subject topic theme version whole little long far much many"
        ).Split(' ')
    );

    /// <summary>The wishes of a message, in the order of its text, each once.</summary>
    /// <param name="text">What a reader wrote, as Markdown; what it quotes of others is left out.</param>
    public static IReadOnlyList<Wish> In(string text)
    {
        var wishes = new List<Wish>();
        var own = string.Join('\n', text.ReplaceLineEndings("\n").Split('\n').Where(line => !line.TrimStart().StartsWith('>')));
        foreach (var paragraph in Paragraphs.Of(own))
        {
            var before = "";
            foreach (var sentence in Paragraphs.Sentences(paragraph))
            {
                if (IsWish(sentence) && Of(sentence, before) is { } wish && wishes.TrueForAll(w => w.Text != wish.Text))
                    wishes.Add(wish);
                if (wishes.Count == MostOfOne)
                    return wishes;
                before = sentence;
            }
        }
        return wishes;
    }

    /// <summary>A wish of a message by its sentence, whether or not the rules find it: its writer may have said that it is one.</summary>
    public static Wish Named(string text, string sentence)
    {
        foreach (var paragraph in Paragraphs.Of(text))
        {
            var before = "";
            foreach (var its in Paragraphs.Sentences(paragraph))
            {
                if (PlainText.Headline(its, Longest) == sentence && Of(its, before) is { } wish)
                    return wish;
                before = its;
            }
        }
        return new Wish(sentence, [.. Roots(sentence).DefaultIfEmpty(Stems.Fold(sentence)).Select(r => new WishWord(r, 1))]);
    }

    /// <summary>A wish with the words that say what is wished, and less heavily those of the sentence before it, which often names what the
    /// wish then only points to (“My crust goes soft. Is there a trick?”).</summary>
    /// <returns>Null when nothing says what is wished.</returns>
    private static Wish? Of(string sentence, string before)
    {
        var roots = Roots(sentence);
        var context = Roots(before).Except(roots).ToList();
        // Where nearly all is left to what was said before, that is what is wished.
        var share = roots.Count <= 1 && PointsBack().IsMatch(sentence) ? 1 : Wish.OfContext;
        var words = roots.Select(r => new WishWord(r, 1)).Concat(context.Select(r => new WishWord(r, share))).ToList();
        return roots.Count == 0 && share < 1 || words.Count == 0
            ? null
            : new Wish(PlainText.Headline(sentence, Longest), words)
            {
                Own = roots.Count,
                Said = $"{PlainText.Headline(before, Longest)} {PlainText.Headline(sentence, Longest)}".Trim(),
            };
    }

    /// <summary>The stems of a text that say what it is about.</summary>
    internal static List<string> Roots(string text) =>
        [.. Stems.Of(text).Where(s => !Asking.Contains(Stems.Fold(s.Word)) && s.Root.Length > 1).Select(s => s.Root).Distinct()];

    private static bool IsWish(string sentence)
    {
        var said = Quoted().Replace(sentence, " ").Trim();
        // What is asked within quotation marks was asked by somebody else, or long ago.
        var asks = said.TrimEnd(')', ' ').EndsWith('?') && sentence.TrimEnd(')', ' ').EndsWith('?');
        if (said.Length < 8 || Manners.IsMatch(said) || Between.IsMatch(said) || ByOthers.IsMatch(said))
            return false;
        return asks ? !WantsNoAnswer.IsMatch(said) : Wishing.IsMatch(said) && !Granted.IsMatch(said);
    }

    /// <summary>What people wish with when they do not ask.</summary>
    private static readonly Regex Wishing = AnyOf(
        @"(?:i['’]?d|i would|we['’]?d|we would) (?:\w+ ){0,2}(?:love|like|enjoy|welcome|give a lot)\b",
        @"would (?:love|like|enjoy|welcome) (?:to|more|an?|if|some)\b",
        @"(?:please|could you|can you|would you|will you)\b.{0,20}\b"
            + @"(?:write|tell|explain|say|do|cover|describe|show|give|draw|list|publish|make|record|put)\b",
        @"more (?:on|about|of) .{3,120}\bplease",
        @"please,? (?:more|another|something)\b",
        @"(?:something|anything|another (?:one|piece|letter|essay|walk)) (?:on|about|from|for)\b.*\b(?:please|would|wanted|wished)\b",
        @"(?:i|we)(?:['’]?ve| have)? (?:\w+ ){0,2}(?:wish|wonder|wondered|been wondering|long for|been puzzled)\b",
        @"(?:i|we) (?:\w+ ){0,2}(?:want|hope) (?:to (?:know|read|hear|learn|see|understand)|you|for more|more)\b",
        @"(?:i['’]?m|i am|we are) (?:\w+ ){0,2}(?:curious|wondering|puzzled|keen to|dying to|hoping|longing|interested in)\b",
        @"(?:never|don['’]?t|do not|can['’]?t|cannot) (?:quite |really |yet |fully )?"
            + @"(?:understand|understood|find out|figure out|work out) (?:how|why|what|who|where|when|whether|anything)\b",
        @"no idea (?:how|why|what|who|where|when|whether)\b",
        @"(?:it|that|this) (?:would|might|could) (?:\w+ )?be (?:\w+ )?(?:good|nice|great|lovely|wonderful|helpful|interesting|useful|fun) ",
        @"would be (?:\w+ )?(?:wonderful|lovely|welcome|helpful|useful|a joy|a treat|so helpful)\b",
        @"looking forward to (?:\w+ ){0,3}(?:about|on|more)\b",
        @"(?:what i|what we|all i) (?:\w+ )?(?:miss|lack)\b",
        @"(?:deserves|needs|calls for|is missing|cries out for) (?:\w+ ){0,2}(?:essay|piece|letter|walk|post|chapter|series|own)\b",
        @"(?:curious|wondering) (?:about|how|why|whether|what|who|where|if)\b",
        @"any chance\b",
        @"help with\b",
        @"(?:my|one|a|another) (?:\w+ )?(?:question|wish|request|plea)(?: for you)?(?::| is| would be)",
        @"(?:please |^)(?:tell (?:us|me)|make us|show us|recommend|explain)\b"
    );

    /// <summary>Good wishes, thanks and greetings.</summary>
    private static readonly Regex Manners = AnyOf(
        @"i wish you\b",
        @"wish(?:ing)? (?:you|us all)\b",
        @"hope (?:that )?(?:you(?:['’]?re| are| had| have| keep)|the|this|your|all|everyone|everybody)\b",
        @"how are you\b",
        @"how have you been\b",
        @"(?:want(?:ed)?|like|love|wish) (?:only |just )?to "
            + @"(?:thank|congratulate|let you|add|point|tell you|wish|send|share|express|report)\b",
        @"(?:may|can|could|might) i (?:just |first |only )?(?:say|add|thank|tell you|offer|recommend)\b",
        @"keep (?:up|going|them coming)\b"
    );

    /// <summary>What two people have to arrange between them: addresses, payments, copies that did not come, meetings, rights.</summary>
    private static readonly Regex Between = AnyOf(
        @"(?:un)?subscri(?:be|bed|ber|ption|ptions)\b",
        @"(?:my|an?|the|our) (?:new |old |work )?(?:e-?mail|address|account|password|order|payment|invoice|login|fee)\b",
        @"(?:did|have) you (?:get|got|receive|received|seen|see) (?:my|our|the (?:mail|message|letter|book|parcel|photograph))\b",
        @"(?:did|has|have) (?:my|our) (?:\w+ )?(?:mail|message|letter|parcel|note|contribution|payment)\b",
        @"(?:has|have|did) (?:not|never) (?:arrived?|come|reach(?:ed)?)\b",
        @"did not (?:come|arrive|reach)\b",
        @"(?:twice this|two copies|second copy|garbled|link (?:is|does|was|to)|attachment|does not open|won['’]?t open)\b",
        @"have i been dropped\b",
        @"(?:are|would|will) you (?:be )?(?:free|available|willing|prepared|interested)\b",
        @"(?:would|could|will|can) you (?:like to |perhaps |please )?"
            + @"(?:come|join|speak|visit|sign|meet|call|ring|phone|review|take part|contribute|lend)\b",
        @"(?:may|can|could|might) (?:i|we) (?:\w+ )?(?:quote|reprint|use your|share|translate|print|copy|forward|borrow|hang|photocopy)\b",
        @"(?:send|post|mail|forward) (?:me|us|it|them|the \w+) (?:\w+ ){0,4}(?:again|instead|copy|copies|to)\b",
        @"(?:shall|should|can|could) we (?:meet|talk|say)\b",
        @"where (?:can|do|could|should) i (?:\w+ )?(?:buy|order|pay|sign|send|subscribe|park)\b",
        @"(?:like|want|how do i|able) (?:\w+ )?to pay\b",
        @"how do i pay\b",
        @"(?:take|took) me off\b",
        @"judge our\b"
    );

    /// <summary>Asked by others, or once.</summary>
    private static readonly Regex ByOthers = AnyOf(
        @"(?:he|she|they|my \w+|our \w+|people|children|everyone|everybody|someone|somebody|the \w+)(?: has| have)? (?:\w+ )?"
            + @"(?:asked|asks|wondered|wonders|wanted to know|kept asking|used to)\b",
        @"i (?:once |then |also )?(?:asked|told) (?:him|her|them|my|our|the|a|an)\b",
        @"used to (?:wonder|ask|wish)\b",
        @"as (?:a child|children) (?:i|we) ",
        @"(?:i was|good of you to|kind of you to) ask",
        @"you (?:asked|ask|wondered) (?:us|me|whom|who|what|why|how|whether)\b"
    );

    /// <summary>Questions that only say something; looked for in what ends in a question mark.</summary>
    private static readonly Regex WantsNoAnswer = AnyOf(
        @"(?:isn|aren|wasn|weren|don|doesn|didn|won|wouldn|couldn|shouldn|hasn|haven|can)['’]?t (?:it|he|she|they|you|we|i|that|there)\?",
        @"do (?:they|we|you|it|i)\?",
        @",\s*(?:right|no|eh|yes|or not|or what|hm+|is it|are they|does it|is there|don['’]?t you think)\?",
        @"don['’]?t (?:you|we)(?: all)? (?:think|find|agree|feel|love)\b",
        @"^(?:and |but |so |well, )*who (?:would(?:n['’]?t)?|could|doesn['’]?t|can|needs|cares|else)\b",
        @"^(?:and |but |so |well, )*what (?:could|more can|more could|else (?:is|can|could|would)|better)\b",
        @"^(?:and |but |so )*(?:how|why) (?:could|can|should|would|did) (?:i|one|anyone|anybody|we) (?:\w+ )?"
            + @"(?:not|resist|have|forget|possibly|bother|need|thank)\b",
        @"^(?:and |but |so |or )*(?:why not|who knew|who knows|what now|is that so|really)\b",
        @"^(?:and |but |so )*(?:isn|aren|wasn|haven|wouldn)['’]?t\b",
        @"is there anything (?:better|lovelier|finer|nicer|worse|sadder)\b",
        @"(?:guess|you know) what\?",
        @"did i read (?:that|it|this)\b",
        @"^(?:is it) \w+\?$"
    );

    /// <summary>Wished, and had already, or wished of nobody.</summary>
    private static readonly Regex Granted = AnyOf(
        @"(?:just|exactly|precisely) what (?:i|we) (?:\w+ )?(?:want|need|wish|hope)",
        @"(?:all|everything) (?:i|we) (?:had )?(?:hoped|wished|wanted|needed)\b",
        @"(?:i|we) (?:would|should|could) (?:\w+ )?have (?:loved|liked)\b",
        @"should like to have\b",
        @"i['’]?d rather\b",
        @"(?:i['’]?d|i would|i should) (?:love|like) (?:to (?:join|come|meet|visit|help|think|believe|pay)|it back)\b",
        @"like it back\b",
        @"should object\b"
    );

    /// <summary>Put together as the program starts: as one literal they are more than the compiler's generator of expressions
    /// bears.</summary>
    private static Regex AnyOf(params string[] phrases) =>
        new(
            string.Join('|', phrases.Select(p => p[0] == '^' || p[0] == ',' ? p : @"\b" + p)),
            RegexOptions.IgnoreCase | RegexOptions.CultureInvariant | RegexOptions.Compiled
        );

    [GeneratedRegex(@"\b(?:that|this|those|these|it|them|him|her|he|she|they|there|more|one)\b", RegexOptions.IgnoreCase)]
    private static partial Regex PointsBack();

    [GeneratedRegex("[“\"«„][^”\"»“]{0,400}[”\"»“]")]
    private static partial Regex Quoted();
}

/// <summary>A word of a wish.</summary>
/// <param name="Root">Its stem.</param>
/// <param name="Share">How much it counts: 1 in the wish itself, less in the sentence before it.</param>
public readonly record struct WishWord(string Root, double Share);

/// <summary>A sentence in which a reader wishes for something.</summary>
/// <param name="Text">The sentence, without marks.</param>
/// <param name="Words">The words that say what is wished, each once; never empty.</param>
public sealed record Wish(string Text, IReadOnlyList<WishWord> Words)
{
    /// <summary>How many of the words stand in the sentence itself; the first ones.</summary>
    public int Own { get; init; } = Words.Count;

    /// <summary>What a word of the sentence before counts.</summary>
    public const double OfContext = 0.4;

    /// <summary>The sentence with the one before it, by which it is read closely.</summary>
    public string Said { get; init; } = Text;

    /// <summary>What that means, by <see cref="SentenceMeaning"/>; null until it was read.</summary>
    public float[]? Meaning { get; init; }
}
