using System.Collections;
using System.Text.Json;
using System.Text.Json.Nodes;
using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;
using Nachlass.Core.Papers;
using Nachlass.Core.Sift;

namespace Nachlass.Web.Hosting;

/// <summary>Makes the OpenAPI document true about our own types and headers.</summary>
internal static class Describing
{
    public static void Configure(OpenApiOptions options)
    {
        options.AddDocumentTransformer(
            (document, _, _) =>
            {
                document.Info = new OpenApiInfo
                {
                    Title = "Nachlass",
                    Version = "1",
                    Description = "A working desk for one writer: catch, sift, gather, write, send out.",
                };
                // Where it runs is the reader's business, and differs between machines.
                document.Servers = [];
                return Task.CompletedTask;
            }
        );
        options.AddSchemaTransformer(
            async (schema, context, cancel) =>
            {
                var type = Nullable.GetUnderlyingType(context.JsonTypeInfo.Type) ?? context.JsonTypeInfo.Type;
                if (
                    type.IsGenericType
                    && type.GetGenericArguments() is [var item]
                    && IsNumber(item)
                    && type.IsAssignableTo(typeof(IEnumerable))
                )
                    schema.Items = new OpenApiSchema
                    {
                        Type = JsonSchemaType.Integer,
                        Format = "int32",
                        Minimum = "1",
                    };
                else if (IsNumber(type))
                {
                    schema.Type = JsonSchemaType.Integer;
                    schema.Format = "int32";
                    schema.Minimum = "1";
                    schema.Properties?.Clear();
                    schema.Required?.Clear();
                }
                else if (type.IsGenericType && type.GetGenericTypeDefinition() == typeof(Word<>))
                {
                    schema.Type = JsonSchemaType.String;
                    schema.Enum =
                    [
                        .. Enum.GetNames(type.GetGenericArguments()[0])
                            .Select(name => (JsonNode)JsonNamingPolicy.CamelCase.ConvertName(name)),
                    ];
                    schema.Properties?.Clear();
                    schema.Required?.Clear();
                }
                else if (type.IsGenericType && type.GetGenericTypeDefinition() == typeof(Maybe<>))
                {
                    var inner = Nullable.GetUnderlyingType(type.GetGenericArguments()[0]) ?? type.GetGenericArguments()[0];
                    var described = await context.GetOrCreateSchemaAsync(inner, null, cancel);
                    schema.Type = (described.Type ?? JsonSchemaType.String) | JsonSchemaType.Null;
                    schema.Format = described.Format;
                    schema.Enum = described.Enum;
                    schema.Properties?.Clear();
                    schema.Required?.Clear();
                }
                else if (
                    (type.Assembly == typeof(Maybe<>).Assembly || type == typeof(Nachlass.Store.Bench.FormatOpened))
                    && !typeof(Decision).IsAssignableFrom(type)
                    && !typeof(RuleAct).IsAssignableFrom(type)
                    && schema.Properties is { Count: > 0 } properties
                )
                    // The core's own types are only ever answered, and answered whole.
                    schema.Required = properties.Keys.ToHashSet();
            }
        );
        options.AddOperationTransformer(
            (operation, context, _) =>
            {
                if (context.Description.HttpMethod is not "POST")
                    return Task.CompletedTask;
                (operation.Parameters ??= []).Add(
                    new OpenApiParameter
                    {
                        Name = Request.KeyHeader,
                        In = ParameterLocation.Header,
                        Description = "A key of the sender's choice; a request that is sent again with the same key is done once.",
                        Schema = new OpenApiSchema { Type = JsonSchemaType.String, MaxLength = 200 },
                    }
                );
                return Task.CompletedTask;
            }
        );
    }

    private static bool IsNumber(Type type) =>
        Array.Exists(
            (Nullable.GetUnderlyingType(type) ?? type).GetInterfaces(),
            i => i.IsGenericType && i.GetGenericTypeDefinition() == typeof(INumber<>)
        );
}
