using System.Xml;
using System.Xml.Linq;
using Nachlass.Exchange.Capture;
using Nachlass.Exchange.Papers;

namespace Nachlass.Exchange.Formats;

/// <summary>Reads XML of strangers: without document types, so that no entity can grow or fetch anything.</summary>
internal static class XmlIn
{
    private static readonly XmlReaderSettings Settings = new()
    {
        DtdProcessing = DtdProcessing.Prohibit,
        XmlResolver = null,
        MaxCharactersInDocument = TextIn.MostBytesAtOnce,
        CloseInput = true,
    };

    /// <exception cref="UnreadableFileException">It is no XML, too large, or has a document type.</exception>
    public static T Read<T>(InFile file, Func<XmlReader, T> read)
    {
        TextIn.NotLarge(file);
        try
        {
            using (var marks = XmlReader.Create(Begun(file), Settings))
                NotDeep(file.Name, marks);
            using var xml = XmlReader.Create(Begun(file), Settings);
            return read(xml);
        }
        catch (XmlException error)
        {
            throw new UnreadableFileException(
                file.Name,
                error.Message.Contains("DTD", StringComparison.Ordinal)
                    ? "it declares a document type. Entities can hide anything, so such files are not read."
                    : $"it is no well-formed XML: {error.Message}"
            );
        }
        catch (System.Text.DecoderFallbackException)
        {
            throw new UnreadableFileException(file.Name, "its encoding breaks somewhere. Save it as UTF-8 and try again.");
        }
    }

    /// <summary>A file from its first mark on: blanks before the declaration are no XML, and stand in many files all the same.</summary>
    private static StreamReader Begun(InFile file)
    {
        var reader = TextIn.Open(file);
        while (reader.Peek() is var next and >= 0 && (char.IsWhiteSpace((char)next) || next == '\uFEFF'))
            reader.Read();
        return reader;
    }

    /// <summary>How deep elements may stand one inside the other.</summary>
    private const int Deepest = 400;

    /// <summary>Goes through the marks before a tree is made of them.</summary>
    /// <exception cref="UnreadableFileException">They stand deeper than in any document.</exception>
    public static void NotDeep(string name, XmlReader marks)
    {
        while (marks.Read())
            if (marks.Depth > Deepest)
                throw new UnreadableFileException(name, $"its elements are nested deeper than {Deepest}.");
    }

    /// <summary>The same of a part of a packed document.</summary>
    public static void NotDeep(string name, Stream part)
    {
        using var marks = XmlReader.Create(part, Settings);
        NotDeep(name, marks);
    }

    public static XDocument Document(InFile file) => Read(file, xml => XDocument.Load(xml, LoadOptions.SetLineInfo));

    public static int Line(XElement element) => ((IXmlLineInfo)element).LineNumber;
}
