using Nachlass.Core.Papers;
using Nachlass.Core.Text;

namespace Nachlass.Core.Topics;

/// <summary>A line a digest is put together from: a takeaway or quotation of a source.</summary>
/// <param name="Slip">The passage.</param>
/// <param name="Source">The source it is of.</param>
/// <param name="Text">What it says.</param>
public sealed record DigestPassage(SlipNumber Slip, SourceNumber Source, string Text);

/// <summary>A line of a digest.</summary>
/// <param name="Carries">How near it is to the middle of its theme, 0 to 1; the most carrying come first.</param>
/// <param name="Against">Passages of other sources that speak against it.</param>
/// <param name="With">Passages of other sources that say the same.</param>
public sealed record DigestLine(SlipNumber Slip, double Carries, IReadOnlyList<Opposition> Against, IReadOnlyList<SlipNumber> With);

/// <summary>A passage that speaks against another.</summary>
/// <param name="Slip">The other passage.</param>
/// <param name="Because">What shows it: a denial in one of them, or other numbers.</param>
public sealed record Opposition(SlipNumber Slip, string Because);

/// <summary>Passages that are about the same.</summary>
/// <param name="Name">Their own most telling words.</param>
/// <param name="Sources">From how many sources they come.</param>
/// <param name="Lines">The most carrying first.</param>
public sealed record DigestTheme(string Name, int Sources, IReadOnlyList<DigestLine> Lines);

/// <summary>
/// Puts together what sources say on a topic. The same passages always give the same digest.
/// </summary>
/// <remarks>
/// Themes are found by group-average agglomerative clustering of the passages' TF-IDF vectors under cosine (Manning, Raghavan and Schütze,
/// <i>Introduction to Information Retrieval</i> (2008), section 17.3) and named by the words heaviest in their centroid (17.7). Lines stand
/// by their likeness to
/// the centroid, as in centroid-based summaries (Radev, Jing, Styś and Tam, <i>Information Processing and Management</i> 40 (2004)).
/// Which of two sources' passages about the same speak against each other, <see cref="Opposing"/> says.
/// </remarks>
public static class Digest
{
    /// <summary>Themes nearer than this are one.</summary>
    public const double SameTheme = 0.085;

    /// <summary>Two passages as near as this are about the same point.</summary>
    public const double SamePoint = 0.16;

    /// <summary>Two passages as near as this say the same.</summary>
    public const double SameSaying = 0.34;

    /// <summary>How many passages are compared; of more, the first of each source are taken.</summary>
    public const int Most = 200;

    /// <summary>The digest of some passages: themes, those from the most sources first.</summary>
    public static IReadOnlyList<DigestTheme> Of(IReadOnlyList<DigestPassage> passages)
    {
        var taken = passages
            .DistinctBy(p => p.Slip)
            .GroupBy(p => p.Source)
            .SelectMany(g => g.OrderBy(p => p.Slip.Value).Select((p, i) => (p, i)))
            .OrderBy(p => p.i)
            .ThenBy(p => p.p.Slip.Value)
            .Take(Most)
            .Select(p => p.p)
            .OrderBy(p => p.Slip.Value)
            .ToList();
        if (taken.Count == 0)
            return [];
        // Each text is read once: Markdown and stems cost more than all the comparing.
        var plain = taken.Select(p => PlainText.Of(p.Text)).ToList();
        var stems = plain.Select(Stems.Of).ToList();
        var clauses = plain.Select(Opposing.Clauses).ToList();
        var vectors = Clusters.Weighed(stems);
        var near = Clusters.Likenesses(vectors);
        return
        [
            .. Clusters
                .Of(near, taken.Count, SameTheme)
                .Select(Theme)
                .OrderByDescending(t => t.Lines.Count == 1 ? 0 : 1)
                .ThenByDescending(t => t.Sources)
                .ThenByDescending(t => t.Lines.Count)
                .ThenBy(t => t.Lines[0].Slip.Value),
        ];

        DigestTheme Theme(List<int> members)
        {
            var centroid = new Dictionary<string, double>();
            foreach (var m in members)
            foreach (var (root, weight) in vectors[m])
                centroid[root] = centroid.GetValueOrDefault(root) + weight / members.Count;
            var length = Clusters.Length(centroid);
            var lines = members
                .Select(m => new DigestLine(
                    taken[m].Slip,
                    length == 0 ? 0 : Math.Min(1, Clusters.Product(vectors[m], centroid) / length),
                    [
                        .. Others(m)
                            .Where(o => near[m, o] >= SamePoint)
                            .Select(o => (o, Why: Opposing.Of(clauses[m], clauses[o])))
                            .Where(o => o.Why is not null)
                            .Select(o => new Opposition(taken[o.o].Slip, o.Why!)),
                    ],
                    [
                        .. Others(m)
                            .Where(o => near[m, o] >= SameSaying && Opposing.Of(clauses[m], clauses[o]) is null)
                            .Select(o => taken[o].Slip),
                    ]
                ))
                .OrderByDescending(l => l.Carries)
                .ThenBy(l => l.Slip.Value)
                .ToList();
            return new DigestTheme(
                Clusters.NameOf(centroid, members.SelectMany(m => stems[m])),
                members.Select(m => taken[m].Source).Distinct().Count(),
                lines
            );

            IEnumerable<int> Others(int m) => members.Where(o => taken[o].Source != taken[m].Source);
        }
    }
}
