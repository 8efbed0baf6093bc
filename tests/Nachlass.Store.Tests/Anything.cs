using CsCheck;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Sift;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;
using Nachlass.Store.Sources;
using Nachlass.Store.Topics;

namespace Nachlass.Store.Tests;

/// <summary>Whatever a writer could do, in any order, with texts that make it difficult.</summary>
internal static class Anything
{
    /// <summary>Texts that YAML, Markdown and line ends make difficult.</summary>
    private static readonly string[] Awkward =
    [
        "plain",
        "---\nnot front matter\n---",
        "trailing\n\n\n",
        "\n\nleading",
        "“quotes” and 'quotes' and \"quotes\"",
        "- a\n- b: c",
        "tabs\tand # hash",
        "null",
        "1784",
        "~",
        "emoji 👩‍🌾 naïve",
        "## heading\n\n> quote",
        "C:\\path",
        "a: b: c",
        "[[slip 1]] #x",
    ];

    /// <summary>Some steps: what is done, with which words, about which number.</summary>
    public static Gen<List<(int What, string Words, int Number)>> Steps =>
        Gen.Select(Gen.Int[0, 20], Gen.Int[0, Awkward.Length - 1].Select(i => Awkward[i]), Gen.Int[1, 9]).List[1, 25];

    /// <summary>Does one step. Not every step makes sense in every state; what is refused changes nothing.</summary>
    public static void Do(Desk desk, (int What, string Words, int Number) step)
    {
        var (what, words, number) = step;
        var filled = words.Trim().Length == 0 ? "x" : words;
        try
        {
            switch (what)
            {
                case 0:
                    desk.Catch(filled + " #ferries");
                    break;
                case 1:
                    desk.Sources.Add(
                        new SourceChange
                        {
                            Title = filled.Replace('\n', ' '),
                            Summary = words,
                            Comments = words,
                            Topics = ["tolls"],
                        },
                        Once.Unkeyed
                    );
                    break;
                case 2:
                    desk.Decisions.Decide(
                        SlipNumber.Of(number),
                        new Decision.StartPiece("essay", filled.Split('\n')[0] + "x"),
                        Once.Unkeyed
                    );
                    break;
                case 3:
                    desk.Decisions.Decide(SlipNumber.Of(number), new Decision.Hold(desk.Today.AddDays(number)), Once.Unkeyed);
                    break;
                case 4:
                    desk.Days.Write(desk.Today.AddDays(-number), words, 0, Once.Unkeyed);
                    break;
                case 5:
                    desk.Days.AddMove(filled, null, null, null, Once.Unkeyed);
                    break;
                case 6:
                    desk.Drafts.Save(PieceNumber.Of(number), words, desk.Drafts.Get(PieceNumber.Of(number)).Version, Once.Unkeyed);
                    break;
                case 7:
                    desk.Sources.AddPassage(SourceNumber.Of(number), new NewPassage(filled, words.Split('\n')[0]), Once.Unkeyed);
                    break;
                case 8:
                    desk.Topics.Add(new TopicChange { Name = "topic " + number, Aliases = ["alias " + number] }, Once.Unkeyed);
                    break;
                case 9:
                    desk.Days.CatchLine(
                        desk.Today.AddDays(-number),
                        1,
                        new SheetLine(filled, words.Split('\n')[0], words, number % 5 + 1),
                        Once.Unkeyed
                    );
                    break;
                case 10:
                    desk.Days.WriteBlock(desk.Today.AddDays(-number), 11, words, 0, Once.Unkeyed);
                    break;
                case 11:
                    desk.Plans.Write(PlanWith(words, filled, number), desk.Plans.Plan().Version, Once.Unkeyed);
                    break;
                case 12:
                    desk.Decisions.PassOver(SlipNumber.Of(number), Reference.To(TopicNumber.Of(1)), Once.Unkeyed);
                    break;
                case 13:
                    desk.Slips.Refuse(SlipNumber.Of(number), TopicNumber.Of(1), Once.Unkeyed);
                    break;
                case 14:
                    desk.Topics.KeepApart(TopicNumber.Of(1), TopicNumber.Of(2), Once.Unkeyed);
                    break;
                case 15:
                    desk.Digests.Edit(
                        TopicNumber.Of(1),
                        new DigestChange
                        {
                            Intro = words,
                            Line = SlipNumber.Of(number),
                            Words = words,
                            Hidden = number % 2 == 0,
                            Theme = SlipNumber.Of(number),
                            Name = filled.Split('\n')[0],
                        },
                        Once.Unkeyed
                    );
                    break;
                case 16:
                    desk.Views.Add(
                        new Store.Text.ViewChange
                        {
                            Name = "view " + number,
                            Query = $"pull>={number % 5 + 1}",
                            OnDesk = true,
                        },
                        Once.Unkeyed
                    );
                    break;
                case 18:
                    desk.Claims.Refine(SlipNumber.Of(number), words, Once.Unkeyed);
                    desk.Claims.Weigh(SlipNumber.Of(number), Reference.To(SlipNumber.Of(number + 1)), Side.Against, words, Once.Unkeyed);
                    break;
                case 19:
                    desk.Usable.Mark(
                        Reference.To(SlipNumber.Of(number)),
                        desk.Usable.Paragraphs(Reference.To(SlipNumber.Of(number)))[0].Text,
                        "letter",
                        Once.Unkeyed
                    );
                    break;
                case 17:
                    desk.Decisions.Decide(
                        SlipNumber.Of(number),
                        number % 2 == 0 ? new Decision.Hold(LookUp: "the tide table") : new Decision.Hold(Sources: number),
                        Once.Unkeyed
                    );
                    break;
                default:
                    desk.Decisions.Decide(SlipNumber.Of(number), new Decision.MergeInto(SlipNumber.Of(number + 1)), Once.Unkeyed);
                    break;
            }
        }
        catch (Exception refused) when (refused is RefusedException or ArgumentOutOfRangeException)
        {
            // Refused, as a writer would be.
        }
    }

    private static DayPlan PlanWith(string words, string filled, int number) =>
        DayPlan.First with
        {
            DaysOff = [(DayOfWeek)(number % 7)],
            Blocks =
            [
                .. DayPlan.First.Blocks,
                new PlanBlock(
                    10,
                    BlockKind.Question,
                    "Q " + words.Split('\n')[0],
                    new([DayOfWeek.Friday, (DayOfWeek)(number % 7)], [number], [new(2026, 12, number)]),
                    filled
                ),
                new PlanBlock(11, BlockKind.Again, "", BlockDays.Every, words),
            ],
        };
}
