using Nachlass.Core.Papers;
using Nachlass.Exchange.Formats;

namespace Nachlass.Web.Hosting;

/// <summary>Looks into files for their type and their words.</summary>
internal static class Looking
{
    public static FileReading Into(string name, string path) => FileKinds.Read(name, path);
}
