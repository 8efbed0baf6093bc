using Nachlass.Core.Catalogue;
using Nachlass.Core.Catalogue.Queue;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Store.Catalogue;
using Nachlass.Store.Catalogue.Audio;
using Nachlass.Store.Catalogue.Queue;
using Nachlass.Store.Papers;
using Nachlass.Store.Plan;

namespace Nachlass.Store.Tests.Catalogue;

/// <summary>Recordings and the feeds they go out in.</summary>
public sealed class AudioStoreTests : IDisposable
{
    private readonly Desk desk = new();
    private readonly OutletNumber outlet;
    private readonly PieceNumber piece;

    public AudioStoreTests()
    {
        outlet = desk.Outlets.Add(new OutletChange { Name = "Walks" }, Once.Unkeyed).Answer.Number;
        desk.Connections.Set(outlet, ConnectionKind.Feed, "", null);
        piece = desk.Pieces.Start(new Store.Bench.NewPiece("A walk", Format: "audio"), Once.Unkeyed).Answer.Number;
        desk.Drafts.Save(
            piece,
            "## The bell\n\nOne two three.\n\n## The lane\n\nFour five six.\n",
            desk.Drafts.Get(piece).Version,
            Once.Unkeyed
        );
    }

    public void Dispose() => desk.Dispose();

    private AttachmentNumber Attach(int seconds, string name = "walk.wav") =>
        desk
            .Attachments.Add(new Reference(ThingKind.Piece, piece.Value), name, new MemoryStream(Wave.Silence(seconds)), "", Once.Unkeyed)
            .Answer.Number;

    [Fact]
    public void Without_a_recording_it_is_said_what_is_missing_and_nothing_goes_into_the_queue()
    {
        desk.Attachments.Add(
            new Reference(ThingKind.Piece, piece.Value),
            "notes.txt",
            new MemoryStream("no sound"u8.ToArray()),
            "",
            Once.Unkeyed
        );
        var preview = desk.Queue.Preview(piece, new NewSending(outlet));
        preview.Sound.ShouldBeNull();
        preview.Over.ShouldHaveSingleItem().ShouldContain("has no recording yet");
        Should.Throw<BadInputException>(() => desk.Queue.Queue(piece, new NewSending(outlet), Once.Unkeyed)).Field.ShouldBe("outlet");
        desk.Queue.List().ShouldBeEmpty();
    }

    [Fact]
    public void The_newest_recording_goes_out_with_chapters_made_of_the_headings()
    {
        Attach(30, "first cut.wav");
        Attach(60);
        var preview = desk.Queue.Preview(piece, new NewSending(outlet));
        preview.Sound!.Name.ShouldBe("walk.wav");
        preview.Sound.Ms.ShouldBe(60_000);
        preview.Chapters.Select(c => (c.Ms, c.Title)).ShouldBe([(0, "The bell"), (30_000, "The lane")]);
        preview.Text.ShouldStartWith("- 0:00 The bell\n- 0:30 The lane\n\n## The bell");
        preview.Parts.Count.ShouldBe(1);
        preview.Over.ShouldBeEmpty();

        desk.Queue.Preview(piece, new NewSending(outlet, Text: "0:00 A\n2:00 B")).Over.ShouldHaveSingleItem().ShouldContain("ends at 1:00");
        Should
            .Throw<BadInputException>(() => desk.Queue.Queue(piece, new NewSending(outlet, Text: "0:00 A\n2:00 B"), Once.Unkeyed))
            .Field.ShouldBe("text");
        desk.Queue.Preview(piece, new NewSending(outlet, Text: "0:10 Mine\n0:20 Yours")).Chapters.Count.ShouldBe(2);
    }

    [Fact]
    public void It_stands_in_the_feed_while_it_is_sent_and_afterwards_as_the_same_episode()
    {
        Attach(60);
        var sending = desk.Queue.Queue(piece, new NewSending(outlet), Once.Unkeyed).Answer;
        desk.Audio.Episodes(outlet).ShouldBeEmpty();
        sending = desk.Queue.Begin(sending, 1);
        var going = desk.Audio.Episodes(outlet).ShouldHaveSingleItem();
        // A hub that is down keeps nobody from hearing it.
        sending = desk.Queue.End(sending, 1, new Outcome.Later("Its hub is down."));
        desk.Audio.Episodes(outlet).ShouldHaveSingleItem().ShouldBe(going);
        sending = desk.Queue.Begin(sending, 1);
        sending = desk.Queue.End(sending, 1, new Outcome.Taken("https://pages.example/audio/1/x.wav"));
        desk.Queue.Finish(sending);

        var there = desk.Audio.Episodes(outlet).ShouldHaveSingleItem();
        there.ShouldBe(going);
        var release = desk.Releases.List().ShouldHaveSingleItem();
        release.Kind.ShouldBe(ReleaseKind.Spoken);
        release.Recording!.Key.ShouldBe(sending.Parts[0].Key);
        release.Recording.File.ShouldEndWith(".wav");

        // The recording is the release's, whatever becomes of the piece's files.
        desk.Attachments.Remove(desk.Audio.Of(piece)[0].Attachment, Once.Unkeyed);
        desk.Audio.Episodes(outlet).ShouldHaveSingleItem().ShouldBe(going);
    }

    [Fact]
    public void A_recording_given_afterwards_keeps_its_place_when_it_is_another_and_undo_takes_it_back()
    {
        var first = Attach(30, "first cut.wav");
        var release = desk.Releases.Record(piece, new NewRelease(outlet), Once.Unkeyed).Answer;
        desk.Audio.Episodes(outlet).ShouldBeEmpty();
        var done = desk.Audio.Choose(release.Number, new RecordingChoice(release.Version, first), Once.Unkeyed);
        var before = desk.Audio.Episodes(outlet).ShouldHaveSingleItem().Recording;
        before.Ms.ShouldBe(30_000);

        var second = Attach(60);
        var changed = desk.Audio.Choose(release.Number, new RecordingChoice(done.Answer.Version, second), Once.Unkeyed);
        var after = desk.Audio.Episodes(outlet).ShouldHaveSingleItem().Recording;
        (after.Key, after.At, after.Ms).ShouldBe((before.Key, before.At, 60_000));
        desk.History.Undo(changed.Command, Once.Unkeyed);
        desk.Audio.Episodes(outlet).ShouldHaveSingleItem().Recording.ShouldBe(before);

        Should.Throw<StaleException>(() => desk.Audio.Choose(release.Number, new RecordingChoice(1, null), Once.Unkeyed));
        Should
            .Throw<BadInputException>(() =>
                desk.Audio.Choose(
                    release.Number,
                    new RecordingChoice(desk.Releases.Get(release.Number).Version, AttachmentNumber.Of(99)),
                    Once.Unkeyed
                )
            )
            .Field.ShouldBe("attachment");
        desk.Audio.Choose(release.Number, new RecordingChoice(desk.Releases.Get(release.Number).Version, null), Once.Unkeyed);
        desk.Audio.Episodes(outlet).ShouldBeEmpty();
    }

    [Fact]
    public void What_was_put_right_is_said_once_it_stands_there()
    {
        var sound = Attach(30);
        var release = desk.Releases.Record(piece, new NewRelease(outlet), Once.Unkeyed).Answer;
        desk.Audio.Choose(release.Number, new RecordingChoice(release.Version, sound), Once.Unkeyed);
        desk.Drafts.Save(piece, "Put right.\n", desk.Drafts.Get(piece).Version, Once.Unkeyed);
        desk.Releases.Correct(release.Number, new CorrectionNote("A wrong bell."), Once.Unkeyed);
        desk.Audio.Episodes(outlet).ShouldHaveSingleItem().Text.ShouldContain("The bell");
        desk.Releases.IsRightThere(release.Number);
        desk.Audio.Episodes(outlet).ShouldHaveSingleItem().Text.ShouldBe("Put right.");
    }
}
