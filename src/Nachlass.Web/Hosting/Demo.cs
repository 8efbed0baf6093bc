using Nachlass.Store.Papers;

namespace Nachlass.Web.Hosting;

/// <summary>Opens the papers; for the demo, makes them anew from the files of the repository first.</summary>
internal static class Demo
{
    public static PapersFile Open(Settings settings, TimeProvider time)
    {
        return PapersFile.Open(settings.Data, time);
    }
}
