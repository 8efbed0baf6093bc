using System.Buffers;
using System.Net;
using System.Net.Http.Headers;
using System.Net.ServerSentEvents;
using System.Runtime.CompilerServices;
using System.Text;
using System.Text.Json;
using Nachlass.Core.Ideas.Service;
using Nachlass.Exchange.Ideas;

namespace Nachlass.Web.Ideas.Service;

/// <summary>What came from a service, as it comes: kept for the log, however it ends.</summary>
internal sealed class Heard
{
    private readonly ArrayBufferWriter<byte> bytes = new();

    public void Add(ReadOnlySpan<byte> some) => bytes.Write(some);

    public int Length => bytes.WrittenCount;

    /// <summary>How much the service says it took; null where it does not.</summary>
    public int? Tokens { get; set; }

    public string Text => Encoding.UTF8.GetString(bytes.WrittenSpan).Replace('\0', ' ');
}

/// <summary>A service said something that is no answer.</summary>
/// <param name="message">What, as a sentence to the writer.</param>
internal sealed class NoAnswerException(string message) : Exception(message);

/// <summary>Asks a service of ideas over HTTP. It is believed nothing: what it says is read as words, within limits of time and size, and
/// no other host is called for it.</summary>
internal sealed class ServiceClient : IDisposable
{
    private const int LongestReason = 300;

    /// <summary>How long is waited for what a service says behind its last idea.</summary>
    private static readonly TimeSpan Afterwards = TimeSpan.FromSeconds(2);

    private static readonly MediaTypeHeaderValue Json = new("application/json");

    private readonly HttpClient http = new(new SocketsHttpHandler { AllowAutoRedirect = false, UseProxy = false })
    {
        Timeout = Timeout.InfiniteTimeSpan,
    };

    /// <summary>The body in which a service is asked, to the letter.</summary>
    public static string Body(IdeaService service, IdeaQuestion question) =>
        service.Form == ServiceForm.Chat ? ChatForm.Write(question, service.Model) : QuestionFile.Write(question);

    /// <summary>Sends a question and gives its ideas as they come, no more than were asked for.</summary>
    /// <param name="stop">Also when its time is over.</param>
    /// <exception cref="NoAnswerException">It answers that it won't, or with something else.</exception>
    public async IAsyncEnumerable<ServedIdea> Ask(
        IdeaService service,
        string key,
        IdeaQuestion question,
        string body,
        Heard heard,
        [EnumeratorCancellation] CancellationToken stop
    )
    {
        using var request = new HttpRequestMessage(HttpMethod.Post, service.Endpoint) { Content = new StringContent(body, Json) };
        if (key.Length > 0)
            request.Headers.Authorization = new AuthenticationHeaderValue("Bearer", key);
        using var answer = await http.SendAsync(request, HttpCompletionOption.ResponseHeadersRead, stop);
        await using var stream = new Capped(await answer.Content.ReadAsStreamAsync(stop), heard);
        if (!answer.IsSuccessStatusCode)
            throw new NoAnswerException(await Reason(answer, stream, stop));
        var isChat = service.Form == ServiceForm.Chat;
        using var end = CancellationTokenSource.CreateLinkedTokenSource(stop);
        var lines = isChat ? ChatLines(answer, stream, heard, end.Token) : Lines(stream, end.Token);
        await using var each = lines.GetAsyncEnumerator(end.Token);
        var given = 0;
        while (given < question.Count && await each.MoveNextAsync())
            if (One(each.Current) is { } idea)
            {
                given++;
                yield return idea;
            }
        if (given == 0)
            throw new NoAnswerException("It answered, and nothing in its answer was an idea.");
        await Rest();

        ServedIdea? One(string line)
        {
            var said = isChat ? AnswerLine.ReadLoosely(line, question) : AnswerLine.Read(line, question);
            heard.Tokens = said.Tokens ?? heard.Tokens;
            return said.Idea;
        }

        // What it took is said behind the last idea, if at all; the ideas are there, whatever becomes of that.
        async Task Rest()
        {
            end.CancelAfter(Afterwards);
            try
            {
                while (await each.MoveNextAsync())
                    One(each.Current);
            }
            catch (Exception error) when (!stop.IsCancellationRequested && Trouble(error, 0) is not null) { }
        }
    }

    private static async IAsyncEnumerable<string> Lines(Stream stream, [EnumeratorCancellation] CancellationToken stop)
    {
        using var reader = new StreamReader(stream, Encoding.UTF8);
        while (await reader.ReadLineAsync(stop) is { } line)
            yield return line;
    }

    /// <summary>Lines of what a model writes, from a stream of events (HTML, 9.2, <i>server-sent events</i>) or from an answer that comes
    /// as a whole.</summary>
    private static async IAsyncEnumerable<string> ChatLines(
        HttpResponseMessage answer,
        Stream stream,
        Heard heard,
        [EnumeratorCancellation] CancellationToken stop
    )
    {
        var rest = new StringBuilder();
        await foreach (var data in Events(answer, stream, stop))
        {
            if (data == "[DONE]")
                break;
            var (words, tokens, problem) = Read(data);
            if (problem is not null)
                throw new NoAnswerException($"It says: {Short(problem)}");
            heard.Tokens = tokens ?? heard.Tokens;
            foreach (var sign in words ?? "")
                if (sign != '\n')
                    rest.Append(sign);
                else if (rest.Length > 0)
                {
                    yield return rest.ToString();
                    rest.Clear();
                }
        }
        if (rest.Length > 0)
            yield return rest.ToString();
    }

    private static async IAsyncEnumerable<string> Events(
        HttpResponseMessage answer,
        Stream stream,
        [EnumeratorCancellation] CancellationToken stop
    )
    {
        if (answer.Content.Headers.ContentType?.MediaType == "text/event-stream")
        {
            await foreach (var one in SseParser.Create(stream).EnumerateAsync(stop))
                yield return one.Data;
            yield break;
        }
        using var reader = new StreamReader(stream, Encoding.UTF8);
        yield return await reader.ReadToEndAsync(stop);
    }

    private static (string? Words, int? Tokens, string? Problem) Read(string data)
    {
        try
        {
            return ChatForm.Read(data);
        }
        catch (JsonException)
        {
            throw new NoAnswerException("It answers, but not as chat completions do.");
        }
    }

    /// <summary>Why a service won't, in its words where it has some.</summary>
    private static async Task<string> Reason(HttpResponseMessage answer, Capped stream, CancellationToken stop)
    {
        if (answer.Headers.Location is { } elsewhere)
            return $"It points to another address ({Short(elsewhere.ToString())}), and no other is called. Set that one if you trust it.";
        var reason = "";
        try
        {
            using var reader = new StreamReader(stream, Encoding.UTF8);
            reason = ChatForm.Read(await reader.ReadToEndAsync(stop)).Problem ?? "";
        }
        catch (Exception error) when (error is JsonException or NoAnswerException) { }
        var said = answer.StatusCode switch
        {
            HttpStatusCode.Unauthorized or HttpStatusCode.Forbidden => "It does not take the key.",
            HttpStatusCode.NotFound or HttpStatusCode.MethodNotAllowed => "There is no service of ideas at this address.",
            HttpStatusCode.TooManyRequests => answer.Headers.RetryAfter?.Delta is { } after
                ? $"It has answered enough for now; ask again in {Math.Ceiling(after.TotalSeconds):0} seconds."
                : "It has answered enough for now.",
            _ => $"It answers {(int)answer.StatusCode}.",
        };
        return reason.Length > 0 ? $"{said} It says: {Short(reason)}" : said;
    }

    private static string Short(string reason)
    {
        var line = reason.ReplaceLineEndings(" ").Trim();
        return line.Length > LongestReason ? line[..LongestReason] + "…" : line;
    }

    /// <summary>What went wrong, as a sentence to the writer; null where it is not the service's doing.</summary>
    /// <param name="seconds">How long it was given.</param>
    public static string? Trouble(Exception error, int seconds) =>
        error switch
        {
            NoAnswerException said => said.Message,
            OperationCanceledException => $"It was given {seconds} seconds, and had not finished.",
            HttpRequestException { HttpRequestError: HttpRequestError.SecureConnectionError } =>
                "Nobody vouches for its certificate, so nothing was sent.",
            HttpRequestException { HttpRequestError: HttpRequestError.ConnectionError or HttpRequestError.NameResolutionError } =>
                "It can't be reached.",
            HttpRequestException or IOException => "It stopped in the middle of its answer.",
            _ => null,
        };

    public void Dispose() => http.Dispose();

    /// <summary>An answer, no longer than one may be; what is read is noted.</summary>
    private sealed class Capped(Stream inner, Heard heard) : Stream
    {
        public override async ValueTask<int> ReadAsync(Memory<byte> buffer, CancellationToken cancellationToken = default)
        {
            var read = await inner.ReadAsync(buffer, cancellationToken);
            if (heard.Length + read > IdeaService.LongestAnswer)
                throw new NoAnswerException(
                    $"Its answer is longer than {IdeaService.LongestAnswer / 1024:N0} kilobytes; what came until then was read."
                );
            heard.Add(buffer.Span[..read]);
            return read;
        }

        public override Task<int> ReadAsync(byte[] buffer, int offset, int count, CancellationToken cancellationToken) =>
            ReadAsync(buffer.AsMemory(offset, count), cancellationToken).AsTask();

        public override int Read(byte[] buffer, int offset, int count) => throw new NotSupportedException();

        public override bool CanRead => true;
        public override bool CanSeek => false;
        public override bool CanWrite => false;
        public override long Length => throw new NotSupportedException();
        public override long Position
        {
            get => throw new NotSupportedException();
            set => throw new NotSupportedException();
        }

        public override void Flush() { }

        public override long Seek(long offset, SeekOrigin origin) => throw new NotSupportedException();

        public override void SetLength(long value) => throw new NotSupportedException();

        public override void Write(byte[] buffer, int offset, int count) => throw new NotSupportedException();
    }
}
