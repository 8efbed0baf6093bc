using System.Text.Json;
using System.Text.Json.Serialization;
using Nachlass.Core.Papers;

namespace Nachlass.Store.Papers;

/// <summary>How things are written as JSON, over the wire and in kept answers: camelCase, enums by name, numbers as numbers.</summary>
public static class Answers
{
    public static readonly JsonSerializerOptions Json = Configure(new JsonSerializerOptions(JsonSerializerDefaults.Web));

    public static JsonSerializerOptions Configure(JsonSerializerOptions options)
    {
        options.Converters.Add(new JsonStringEnumConverter(JsonNamingPolicy.CamelCase, allowIntegerValues: false));
        options.Converters.Add(new NumberConverters());
        options.Converters.Add(new MaybeConverters());
        options.NumberHandling = JsonNumberHandling.Strict;
        options.AllowOutOfOrderMetadataProperties = true;
        return options;
    }

    private sealed class NumberConverters : JsonConverterFactory
    {
        public override bool CanConvert(Type type) =>
            type.IsValueType
            && Array.Exists(type.GetInterfaces(), i => i.IsGenericType && i.GetGenericTypeDefinition() == typeof(INumber<>));

        public override JsonConverter CreateConverter(Type type, JsonSerializerOptions options) =>
            (JsonConverter)Activator.CreateInstance(typeof(NumberConverter<>).MakeGenericType(type))!;
    }

    private sealed class NumberConverter<T> : JsonConverter<T>
        where T : struct, INumber<T>
    {
        public override T Read(ref Utf8JsonReader reader, Type type, JsonSerializerOptions options) =>
            reader.TokenType == JsonTokenType.Number && reader.TryGetInt32(out var value) && value > 0
                ? T.Of(value)
                : throw new JsonException("A number of 1 or more belongs here.");

        public override void Write(Utf8JsonWriter writer, T value, JsonSerializerOptions options) => writer.WriteNumberValue(value.Value);
    }

    private sealed class MaybeConverters : JsonConverterFactory
    {
        public override bool CanConvert(Type type) => type.IsGenericType && type.GetGenericTypeDefinition() == typeof(Maybe<>);

        public override JsonConverter CreateConverter(Type type, JsonSerializerOptions options) =>
            (JsonConverter)Activator.CreateInstance(typeof(MaybeConverter<>).MakeGenericType(type.GetGenericArguments()[0]))!;
    }

    /// <summary>A field that is absent stays as it is; one that is null is cleared.</summary>
    private sealed class MaybeConverter<T> : JsonConverter<Maybe<T>>
    {
        public override bool HandleNull => true;

        public override Maybe<T> Read(ref Utf8JsonReader reader, Type type, JsonSerializerOptions options) =>
            new(true, JsonSerializer.Deserialize<T>(ref reader, options));

        public override void Write(Utf8JsonWriter writer, Maybe<T> value, JsonSerializerOptions options) =>
            JsonSerializer.Serialize(writer, value.Value, options);
    }
}
