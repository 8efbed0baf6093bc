using System.Data;
using System.Globalization;
using System.Text.Json;
using Dapper;
using Nachlass.Core.Bench;
using Nachlass.Core.Bench.Aloud;
using Nachlass.Core.Bench.Short;
using Nachlass.Core.Bench.Writing;
using Nachlass.Core.Capture;
using Nachlass.Core.Catalogue;
using Nachlass.Core.Catalogue.Asks;
using Nachlass.Core.Catalogue.Letters;
using Nachlass.Core.Catalogue.Pages;
using Nachlass.Core.Catalogue.Queue;
using Nachlass.Core.Catalogue.Reuse;
using Nachlass.Core.Ideas;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Core.Sift;
using Nachlass.Core.Text.Queries;
using Nachlass.Core.Topics;

namespace Nachlass.Store.Papers;

/// <summary>Tells Dapper how the types of the core are kept: numbers as INTEGER, days as <c>yyyy-MM-dd</c>,
/// instants as UTC ISO 8601 to the millisecond, enums as their name in lower case.</summary>
internal static class Mapping
{
    private static int done;

    public static void Register()
    {
        if (Interlocked.Exchange(ref done, 1) == 1)
            return;
        DefaultTypeMap.MatchNamesWithUnderscores = true;
        Number<SlipNumber>();
        Number<SourceNumber>();
        Number<TopicNumber>();
        Number<PieceNumber>();
        Number<SectionNumber>();
        Number<MoveNumber>();
        Number<CommandNumber>();
        Number<CaptureKeyNumber>();
        Number<AttachmentNumber>();
        Number<OccasionNumber>();
        Number<FeedNumber>();
        Number<ViewNumber>();
        Number<RuleNumber>();
        Number<UsableNumber>();
        Number<StepNumber>();
        Number<TitleNumber>();
        Number<SeriesNumber>();
        Number<StandingTextNumber>();
        Number<PatternNumber>();
        Number<OfferNumber>();
        Number<PostNumber>();
        Number<SittingNumber>();
        Number<ShotNumber>();
        Number<MarkNumber>();
        Number<VersionNumber>();
        Number<ToFindNumber>();
        Number<PieceReferenceNumber>();
        Number<OutletNumber>();
        Number<AwayNumber>();
        Number<StageRuleNumber>();
        Number<GuideLineNumber>();
        Number<GoalNumber>();
        Number<ReleaseNumber>();
        Number<SendingNumber>();
        Number<MessageNumber>();
        Number<AskNumber>();
        Number<WishNumber>();
        Number<PageNumber>();
        Number<CommentNumber>();
        Number<ReaderNumber>();
        Number<CutNumber>();
        Number<CatalogueViewNumber>();
        // Dapper asks its own table before the handlers, so these two have to leave it first.
        SqlMapper.RemoveTypeMap(typeof(DateTimeOffset));
        SqlMapper.RemoveTypeMap(typeof(DateTimeOffset?));
        SqlMapper.RemoveTypeMap(typeof(DateOnly));
        SqlMapper.RemoveTypeMap(typeof(DateOnly?));
        SqlMapper.AddTypeHandler(new InstantHandler());
        SqlMapper.AddTypeHandler(new DayHandler());
        SqlMapper.AddTypeHandler(new JsonHandler<IReadOnlyList<TopicMark>>());
        SqlMapper.AddTypeHandler(new JsonHandler<IReadOnlyList<string>>());
        SqlMapper.AddTypeHandler(new JsonHandler<IReadOnlyList<ViewColumn>>());
        SqlMapper.AddTypeHandler(new JsonHandler<IReadOnlyDictionary<string, string>>());
    }

    /// <summary>An enum's value as it stands in the file.</summary>
    public static string Kept<T>(this T value)
        where T : struct, Enum => value.ToString().ToLowerInvariant();

    /// <summary>An instant as it stands in the file, so that text order is time order.</summary>
    public static string Kept(this DateTimeOffset instant) =>
        instant.UtcDateTime.ToString("yyyy-MM-ddTHH:mm:ss.fffZ", CultureInfo.InvariantCulture);

    /// <summary>A day as it stands in the file, read; null for none.</summary>
    public static DateOnly? Day(string? kept) =>
        kept is null ? null : DateOnly.ParseExact(kept, "yyyy-MM-dd", CultureInfo.InvariantCulture);

    /// <summary>An instant as it will be read back.</summary>
    public static DateTimeOffset ToMillisecond(DateTimeOffset instant) => instant.AddTicks(-(instant.Ticks % TimeSpan.TicksPerMillisecond));

    /// <summary>A day as it stands in the file.</summary>
    public static string Kept(this DateOnly day) => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);

    /// <summary>Numbers as one parameter, for <c>json_each</c>.</summary>
    public static string List(IEnumerable<int> numbers) => "[" + string.Join(',', numbers) + "]";

    private static void Number<T>()
        where T : struct, INumber<T> => SqlMapper.AddTypeHandler(new NumberHandler<T>());

    private sealed class NumberHandler<T> : SqlMapper.TypeHandler<T>
        where T : struct, INumber<T>
    {
        public override T Parse(object value) => T.Of(Convert.ToInt32(value, CultureInfo.InvariantCulture));

        public override void SetValue(IDbDataParameter parameter, T value)
        {
            parameter.DbType = DbType.Int64;
            parameter.Value = (long)value.Value;
        }
    }

    /// <summary>Lists that a query gathers with <c>json_group_array</c>, so that a row arrives whole in one round trip.</summary>
    private sealed class JsonHandler<T> : SqlMapper.TypeHandler<T>
    {
        public override T? Parse(object value) => JsonSerializer.Deserialize<T>((string)value, Answers.Json);

        public override void SetValue(IDbDataParameter parameter, T? value) =>
            parameter.Value = JsonSerializer.Serialize(value, Answers.Json);
    }

    private sealed class InstantHandler : SqlMapper.TypeHandler<DateTimeOffset>
    {
        public override DateTimeOffset Parse(object value) =>
            DateTimeOffset.Parse((string)value, CultureInfo.InvariantCulture, DateTimeStyles.AssumeUniversal);

        public override void SetValue(IDbDataParameter parameter, DateTimeOffset value) => parameter.Value = value.Kept();
    }

    private sealed class DayHandler : SqlMapper.TypeHandler<DateOnly>
    {
        public override DateOnly Parse(object value) => DateOnly.ParseExact((string)value, "yyyy-MM-dd", CultureInfo.InvariantCulture);

        public override void SetValue(IDbDataParameter parameter, DateOnly value) => parameter.Value = value.Kept();
    }
}
