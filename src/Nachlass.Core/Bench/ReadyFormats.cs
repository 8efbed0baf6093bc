namespace Nachlass.Core.Bench;

/// <summary>The formats every set of papers begins with. Each can be changed, put away or taken out.</summary>
public static class ReadyFormats
{
    private static readonly string[] Usual = ["Gather", "Outline", "Draft", "Edit", "Ready", "Out"];

    public static readonly Format Essay = new()
    {
        Key = "essay",
        Name = "Essay",
        IsReused = true,
        Stages = Usual,
        Hours = [3, 2, 6, 4, 1, 0],
        Skeleton =
        [
            new("Where it begins", "opening", 250, 1, 1),
            new("What is at stake", "problem", 350, 1, 2),
            new("What changes it", "turn", 400, 1, 3),
            new("What shows it", "proof", 500, 1, 4),
            new("What remains", "landing", 200, 1, 5),
        ],
        Later =
        [
            new("What speaks against it", "counter", 300, 1, 6),
            new("A scene", "proof", 250, 1, 7),
            new("Notes and thanks", "", 80, 1, 8),
        ],
        Beats = ["opening", "problem", "turn", "proof", "counter", "landing"],
        Steps =
        [
            new(
                "Gather",
                "Say in one sentence what it claims",
                "Write the sentence you would defend at a table. If it takes two, there are two essays in it.",
                Number: 9
            ),
            new(
                "Gather",
                "Look for what speaks against it",
                "An essay that nobody could disagree with is a description. Find the best person who would say no, and what they say.",
                Number: 10
            ),
            new(
                "Outline",
                "Give each section one job",
                "Each section moves the reader from one thing they believe to another. Write both beside it.",
                Number: 11
            ),
            new(
                "Outline",
                "Lay out what has no place",
                "Material that fits nowhere goes back into the library. It was not for this piece.",
                Number: 12
            ),
            new("Draft", "Write the landing before the opening", "You will know what the opening has to promise.", Number: 13),
            new(
                "Draft",
                "Mark what has to be checked, and write on",
                "Two square brackets round what you are not sure of, and no looking up until the section stands.",
                Number: 14
            ),
            new(
                "Edit",
                "Read it aloud, whole, standing",
                "Where you run out of breath there is a full stop missing; where you are bored, so is everybody.",
                Number: 15
            ),
            new(
                "Edit",
                "Check every number, name, date and quotation against its source",
                "Go through the references one by one, with the source open. Tick them in the draft as you go.",
                Number: 16
            ),
            new("Edit", "Cut a tenth", "Begin with the first paragraph: it is often the one you needed in order to begin.", Number: 17),
            new(
                "Ready",
                "Have one other person read it",
                "Ask where they stopped, not whether they liked it.",
                Who: "a reader",
                Number: 18
            ),
            new(
                "Ready",
                "Write the summary line",
                "What somebody would tell a friend it is about, in a hundred and sixty characters.",
                Number: 19
            ),
            new(
                "Ready",
                "See to the picture: right to use it, credit, description",
                "- May it be used, and for how long?\n- Who is to be named, and how?\n- What has somebody to be told who can’t see it?",
                Number: 20
            ),
        ],
        SideTexts = [new("summary", "Summary line", new Limit(160)), new("captions", "Captions and credits")],
        Folders = ["pictures"],
    };

    public static readonly Format Letter = new()
    {
        Key = "letter",
        Name = "Letter",
        Stages = Usual,
        Hours = [1, 1, 3, 2, 1, 0],
        Skeleton =
        [
            new("Greeting", "opening", 80, 1, 1),
            new("The main thing", "story", 400, 1, 2),
            new("Found this fortnight", "finds", 200, 1, 3),
            new("A question back", "ask", 80, 1, 4),
            new("Sign-off", "landing", 40, 1, 5),
        ],
        Later = [new("From your letters", "ask", 150, 1, 6), new("Corrections", "", 80, 1, 7)],
        Beats = ["opening", "story", "finds", "ask", "landing"],
        Steps =
        [
            new(
                "Gather",
                "Look through what readers asked",
                "The library has it under `kind:ask used:no`. One answer in a letter is worth three announcements.",
                Number: 8
            ),
            new("Outline", "Choose one main thing", "The second best goes into the next letter, and is on its way already.", Number: 9),
            new("Draft", "Write it to one person", "Put their name at the top while you write, and take it out at the end.", Number: 10),
            new(
                "Edit",
                "Follow every link",
                "Open each in a private window: what you see signed in is not what they will see.",
                Number: 11
            ),
            new(
                "Edit",
                "Read the subject line beside the last five",
                "It should be the only one of them that could be this letter’s.",
                Number: 12
            ),
            new(
                "Ready",
                "Send it to yourself and read it on a phone",
                "Look at the first line that shows beside the subject: it should not be “view in browser”.",
                Number: 13
            ),
            new("Ready", "Write the preview line", "It carries on where the subject stops.", Number: 14),
        ],
        Fields = [new("subject", "Subject line")],
        SideTexts = [new("preview", "Preview line", new Limit(90)), new("plain", "Words for the archive")],
        TitlePattern = "Letter {{ number }}: {{ title }}",
    };

    public static readonly Format Thread = new()
    {
        Key = "thread",
        Name = "Thread",
        Stages = ["Gather", "Draft", "Ready", "Out"],
        Hours = [0.5, 1, 0.5, 0],
        Skeleton =
        [
            new("First post", "hook", 45, 1, 1),
            new("Second post", "point", 45, 1, 2),
            new("Third post", "point", 45, 1, 3),
            new("Fourth post", "turn", 45, 1, 4),
            new("Last post", "landing", 45, 1, 5),
        ],
        Later = [new("Another post", "point", 45, 1, 6), new("Where it comes from", "", 45, 1, 7)],
        Beats = ["hook", "point", "turn", "landing"],
        Limits = new FormatLimits(new Limit(300), LinkLength: 23),
        Steps =
        [
            new(
                "Draft",
                "Make the first post stand alone",
                "Most people will read no other. It gives something, and promises the rest.",
                Number: 8
            ),
            new("Draft", "One thought a post", "If a post has an “and” in its middle, it is two.", Number: 9),
            new("Ready", "Put the link into the last post, not the first", Number: 10),
            new("Ready", "Describe every picture", "What it shows and why it is here, in a sentence.", Number: 11),
        ],
    };

    public static readonly Format Post = new()
    {
        Key = "post",
        Name = "Short post",
        Stages = ["Draft", "Ready", "Out"],
        Hours = [0.5, 0.2, 0],
        Skeleton = [new("The post", "point", 45, 1, 1)],
        Beats = ["point"],
        Limits = new FormatLimits(new Limit(300), new Limit(300), LinkLength: 23),
        Steps =
        [
            new(
                "Draft",
                "Say it without its first word",
                "Then without its first sentence. Keep the shortest that still says it.",
                Number: 2
            ),
            new("Ready", "Describe the picture", "What it shows and why it is here, in a sentence.", Number: 3),
        ],
        SideTexts = [new("picture", "Picture in words", new Limit(400))],
    };

    public static readonly Format Audio = new()
    {
        Key = "audio",
        Name = "Audio script",
        IsReused = true,
        Stages = ["Gather", "Outline", "Script", "Record", "Cut", "Ready", "Out"],
        Hours = [3, 2, 5, 3, 4, 1, 0],
        Skeleton =
        [
            new("Cold open", "opening", 90, 1, 1),
            new("Where we stand", "place", 250, 1, 2),
            new("What happened here", "story", 500, 1, 3),
            new("What you can hear", "scene", 300, 1, 4),
            new("Walking on", "landing", 120, 1, 5),
        ],
        Later = [new("A voice from here", "scene", 200, 1, 6), new("Thanks and sources", "", 60, 1, 7)],
        Beats = ["opening", "place", "story", "scene", "turn", "landing"],
        Steps =
        [
            new(
                "Gather",
                "Stand at the place for ten minutes and write down what can be heard",
                "Eyes shut. What is constant, what comes and goes, what would be missed?",
                Number: 8
            ),
            new(
                "Outline",
                "Say what the listener does at each stop",
                "Stands, turns, walks on. Nobody can look left and read a sign at once.",
                Number: 9
            ),
            new("Script", "Read it aloud with a watch", "A script is as long as it takes to say. Mark where you breathe.", Number: 10),
            new("Record", "Record a minute of the room", "Before you say anything, and after. The cut needs it to breathe.", Number: 11),
            new(
                "Record",
                "Get consent from everybody who can be told by their voice",
                "Say what it is for and where it will be heard. Record their yes.",
                Number: 12
            ),
            new("Record", "Copy the recording twice before leaving", "Onto two things that don’t travel in the same bag.", Number: 13),
            new("Cut", "Cut on paper first", "Work from the transcript: strike what goes, number what stays.", Number: 14),
            new("Cut", "Listen on the worst loudspeaker you have", "And once outdoors, where it will be heard.", Number: 15),
            new("Ready", "Write the show notes", "What it is, how long, how far one walks, whom to thank, what to read on.", Number: 16),
            new("Ready", "Write out the transcript", Number: 17),
        ],
        Fields =
        [
            new("place", "Place", FieldKind.Text, OnRow: true),
            new("minutes", "Minutes", FieldKind.Number, OnRow: true),
            new("voice", "Voice", FieldKind.Person),
        ],
        SideTexts = [new("show_notes", "Show notes", new Limit(4_000)), new("transcript", "Transcript")],
        Folders = ["raw", "room tone", "final"],
    };

    public static readonly Format Interview = new()
    {
        Key = "interview",
        Name = "Interview",
        Stages = ["Gather", "Ask", "Hold", "Transcribe", "Edit", "Ready", "Out"],
        Hours = [3, 1, 2, 4, 4, 1, 0],
        Skeleton =
        [
            new("Who this is", "opening", 120, 1, 1),
            new("How it began", "story", 400, 1, 2),
            new("What few people ask", "turn", 500, 1, 3),
            new("What they would say now", "landing", 250, 1, 4),
        ],
        Later = [new("Where they disagree", "counter", 250, 1, 5)],
        Beats = ["opening", "story", "turn", "counter", "landing"],
        Steps =
        [
            new("Gather", "Read what they have said elsewhere", "So as not to ask it again, and to notice what they never say.", Number: 6),
            new(
                "Gather",
                "Write ten questions and cross out seven",
                "Keep those that can’t be answered with yes, no, or a date.",
                Number: 7
            ),
            new(
                "Ask",
                "Write to them: what for, how long, where it will appear",
                "Say whether they will see it before it goes out, and stick to that.",
                Number: 8
            ),
            new("Hold", "Agree what is on the record", "Before anything is switched on.", Number: 9),
            new("Hold", "Test the recording, and bring a second", Number: 10),
            new("Hold", "Ask last: what have I not asked?", Number: 11),
            new(
                "Transcribe",
                "Note the minute of each passage you will use",
                "Whoever doubts a sentence must be able to hear it.",
                Number: 12
            ),
            new("Edit", "Change no meaning", "An answer may be shortened and moved. It may not be joined to another question.", Number: 13),
            new("Ready", "Send them what you promised to send", Who: "with them", Number: 14),
        ],
        Fields =
        [
            new("with", "With", FieldKind.Person, OnRow: true),
            new("held_on", "Held on", FieldKind.Date, OnRow: true),
            new("consent", "Consent", FieldKind.Choice, ["asked", "given", "given, to be shown first", "refused"]),
        ],
        SideTexts = [new("about_them", "About them", new Limit(600))],
        Folders = ["raw", "transcripts", "pictures"],
    };

    public static readonly Format Talk = new()
    {
        Key = "talk",
        Name = "Talk",
        IsReused = true,
        Stages = ["Gather", "Outline", "Draft", "Rehearse", "Ready", "Out"],
        Hours = [4, 2, 6, 4, 2, 0],
        Skeleton =
        [
            new("An image to begin with", "opening", 200, 1, 1),
            new("The claim", "claim", 200, 1, 2),
            new("First case", "proof", 600, 1, 3),
            new("Second case", "proof", 600, 1, 4),
            new("What speaks against it", "counter", 300, 1, 5),
            new("What to take home", "landing", 250, 1, 6),
        ],
        Later = [new("Third case", "proof", 500, 1, 7), new("If there is time", "proof", 200, 1, 8)],
        Beats = ["opening", "claim", "proof", "counter", "landing"],
        Steps =
        [
            new(
                "Gather",
                "Ask who will sit there, how long, and what stands before and after",
                "The slot of forty minutes with questions is a talk of twenty-five.",
                Number: 9
            ),
            new("Outline", "Say what they should do differently on Monday", Number: 10),
            new("Draft", "Write it to be said", "Short sentences. The verb early. No sentence with two numbers in it.", Number: 11),
            new(
                "Rehearse",
                "Say it through once without stopping, with a watch",
                "Where you go on although you have lost the thread, so will they.",
                Number: 12
            ),
            new("Rehearse", "Learn the first two sentences and the last by heart", Number: 13),
            new(
                "Ready",
                "Find out: projector, light, microphone, clicker, water",
                "- Which way does the lectern face?\n- Who switches the lights?\n- Is there a second copy of the pictures?",
                Number: 14
            ),
            new("Ready", "Print it in large type, on one side, numbered", Number: 15),
        ],
        Fields =
        [
            new("venue", "Venue", FieldKind.Text, OnRow: true),
            new("held_on", "Held on", FieldKind.Date, OnRow: true),
            new("host", "Host", FieldKind.Person),
            new("paid", "Paid", FieldKind.Tick),
        ],
        SideTexts = [new("announcement", "Announcement", new Limit(600)), new("about_me", "About me", new Limit(400))],
        Folders = ["pictures"],
    };

    public static readonly Format Film = new()
    {
        Key = "film",
        Name = "Film script",
        IsReused = true,
        Stages = ["Gather", "Outline", "Script", "Shoot", "Cut", "Ready", "Out"],
        Hours = [4, 3, 6, 8, 8, 2, 0],
        Skeleton =
        [
            new("First picture", "opening", 60, 1, 1),
            new("The question", "problem", 120, 1, 2),
            new("Going to look", "story", 300, 1, 3),
            new("What changes it", "turn", 200, 1, 4),
            new("Last picture", "landing", 60, 1, 5),
        ],
        Later = [new("Shot list", "", null, 1, 6), new("A voice over the picture", "story", 120, 1, 7)],
        Beats = ["opening", "problem", "story", "turn", "landing"],
        Steps =
        [
            new(
                "Gather",
                "Ask what can be seen, and not only said",
                "If the picture would do for any other film, it is not yet this one.",
                Number: 8
            ),
            new("Script", "Make the shot list", "A table: shot, place, what is seen, what is heard, how long.", Number: 9),
            new("Script", "Get leave to film", "From whoever owns the ground, and from whoever can be told by their face.", Number: 10),
            new("Shoot", "Film what is said before you film who says it", Number: 11),
            new("Shoot", "Ten seconds before and after each shot", "You will need the quiet ends.", Number: 12),
            new("Shoot", "Copy everything twice before leaving", Number: 13),
            new("Cut", "Look at it once without sound", Number: 14),
            new("Ready", "Subtitles, read against the picture", Number: 15),
            new("Ready", "Credits: people, places, sounds, rights", Number: 16),
        ],
        Fields =
        [
            new("minutes", "Minutes", FieldKind.Number, OnRow: true),
            new("place", "Place", FieldKind.Text, OnRow: true),
            new("camera", "Camera", FieldKind.Person),
        ],
        SideTexts = [new("description", "Description", new Limit(5_000)), new("credits", "Credits")],
        Folders = ["raw", "sound", "cuts", "final"],
    };

    /// <summary>All of them, in the order in which they are offered.</summary>
    public static readonly IReadOnlyList<Format> All = [Essay, Letter, Thread, Post, Audio, Interview, Talk, Film];
}
