using System.Collections;
using System.Collections.Concurrent;
using System.Reflection;
using System.Text.Json;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;

namespace Nachlass.Web.Hosting;

/// <summary>What JSON and addresses let through and nothing can be done with: a field that is needed and empty, a list with nothing in one
/// of
/// its places, days outside of any calendar a writer uses. Said before an operation begins, with the place.</summary>
internal static class Whole
{
    private const int Deepest = 12;
    private static readonly ConcurrentDictionary<Type, IReadOnlyList<(PropertyInfo Property, bool IsNeeded)>> Read = new();

    /// <summary>Checks every argument of an operation.</summary>
    public static EndpointFilterDelegate Filter(EndpointFilterFactoryContext context, EndpointFilterDelegate next)
    {
        var parameters = context.MethodInfo.GetParameters();
        return invocation =>
        {
            for (var i = 0; i < invocation.Arguments.Count && i < parameters.Length; i++)
                if (invocation.Arguments[i] is string said)
                    invocation.Arguments[i] = PlainText.Cleaned(said);
                else
                    Check(invocation.Arguments[i], IsBody(parameters[i].ParameterType) ? "" : parameters[i].Name ?? "", 0);
            return next(invocation);
        };
    }

    private static void Check(object? value, string place, int depth)
    {
        if (value is null or string || depth > Deepest)
            return;
        if (value is DateOnly day && !Core.Papers.Check.IsDay(day))
            throw new BadInputException(place, $"{day:yyyy-MM-dd} is too far away; a day is between the years 1000 and 8999.");
        if (value is IList<string> texts)
            for (var i = 0; i < texts.Count && !texts.IsReadOnly; i++)
                if (texts[i] is { } text && PlainText.Cleaned(text) is var clean && !ReferenceEquals(clean, text))
                    texts[i] = clean;
        if (value is IList list)
            for (var i = 0; i < list.Count; i++)
                Check(
                    list[i] ?? throw new BadInputException($"{place}[{i}]", $"Number {i + 1} of the {place} is empty."),
                    $"{place}[{i}]",
                    depth + 1
                );
        else if (IsBody(value.GetType()))
            foreach (var (property, isNeeded) in Read.GetOrAdd(value.GetType(), PropertiesOf))
            {
                var name = Within(place, JsonNamingPolicy.CamelCase.ConvertName(property.Name));
                var held = property.GetValue(value);
                if (held is null && isNeeded)
                    throw new BadInputException(name, $"The {name} is missing.");
                // Every text that is typed or sent passes here before anything is done with it.
                if (held is string text && PlainText.Cleaned(text) is var clean && !ReferenceEquals(clean, text))
                    property.SetValue(value, clean);
                else if (held is Maybe<string?> { Value: { } said })
                    property.SetValue(value, new Maybe<string?>(true, PlainText.Cleaned(said)));
                Check(held, name, depth + 1);
            }
    }

    private static string Within(string place, string name) => place.Length == 0 ? name : $"{place}.{name}";

    /// <summary>Whether a type is a record of ours, as requests are.</summary>
    private static bool IsBody(Type type) =>
        type.Namespace?.StartsWith("Nachlass", StringComparison.Ordinal) == true
        && (type.GetMethod("<Clone>$") is not null || (type.IsGenericType && type.GetGenericTypeDefinition() == typeof(Maybe<>)));

    private static List<(PropertyInfo, bool)> PropertiesOf(Type type)
    {
        var nulls = new NullabilityInfoContext();
        return
        [
            .. type.GetProperties(BindingFlags.Public | BindingFlags.Instance)
                .Where(p =>
                    p.GetIndexParameters().Length == 0 && (p.SetMethod is not null || type.IsValueType) && !p.PropertyType.IsPrimitive
                )
                .Select(p =>
                    (p, !p.PropertyType.IsValueType && nulls.Create(p).ReadState == NullabilityState.NotNull && !type.IsValueType)
                ),
        ];
    }
}
