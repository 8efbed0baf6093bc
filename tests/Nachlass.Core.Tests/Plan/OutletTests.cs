using Nachlass.Core.Papers;
using Nachlass.Core.Plan;

namespace Nachlass.Core.Tests.Plan;

public class OutletTests
{
    [Fact]
    public void An_outlet_without_a_mark_gets_one_of_its_name()
    {
        new Outlet { Name = " Low water " }
            .Checked()
            .Mark.ShouldBe("LW");
        new Outlet { Name = "Talks" }
            .Checked()
            .Mark.ShouldBe("T");
        new Outlet { Name = "Talks", Mark = "👩‍🌾" }
            .Checked()
            .Mark.ShouldBe("👩‍🌾");
    }

    [Fact]
    public void What_can_not_be_is_refused_with_its_field()
    {
        Refused(new Outlet { Name = " " }).ShouldBe("name");
        Refused(new Outlet { Name = "A", Mark = "four" }).ShouldBe("mark");
        Refused(new Outlet { Name = "A", BestHour = 24 }).ShouldBe("hour");
        Refused(new Outlet { Name = "A", Limit = new(0) }).ShouldBe("limit");
        Refused(new Outlet { Name = "A", Address = "ftp://a" }).ShouldBe("address");
        Refused(new Outlet { Name = "A", Blocks = [new("", "x")] }).ShouldBe("name of a block");

        static string Refused(Outlet outlet) => Should.Throw<BadInputException>(() => outlet.Checked()).Field;
    }

    [Fact]
    public void It_takes_what_it_names_or_everything()
    {
        new Outlet { Formats = ["letter"] }
            .Takes("essay")
            .ShouldBeFalse();
        new Outlet().Takes("essay").ShouldBeTrue();
    }

    [Fact]
    public void Hours_and_days_away_are_checked()
    {
        Should.Throw<BadInputException>(() => new WorkingHours([1, 2]).Checked());
        Should.Throw<BadInputException>(() => new WorkingHours([1, 2, 3, 4, 5, 6, 25]).Checked());
        Should.Throw<BadInputException>(() => new WorkingHours([1, 2, 3, 4, 5, 6, double.NaN]).Checked());
        Should.Throw<BadInputException>(() => new Away(default, new(2026, 12, 2), new(2026, 12, 1), "x").Checked()).Field.ShouldBe("to");
        Should.Throw<BadInputException>(() => new Away(default, new(2026, 12, 2), new(2026, 12, 3), " ").Checked()).Field.ShouldBe("name");
        var calendar = new WorkCalendar(
            new WorkingHours([1, 0, 0, 0, 0, 0, 3]),
            [new(default, new(2026, 11, 30), new(2026, 11, 30), "fair")]
        );
        (calendar.On(new(2026, 11, 29)), calendar.On(new(2026, 11, 30)), calendar.On(new(2026, 12, 7))).ShouldBe((3, 0, 1));
    }
}
