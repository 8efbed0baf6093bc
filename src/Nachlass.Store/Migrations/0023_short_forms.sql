-- Texts edited once and shown wherever a draft names them: [[standing text 3]].
CREATE TABLE standing_text (
    number  INTEGER PRIMARY KEY AUTOINCREMENT,
    name    TEXT NOT NULL,
    text    TEXT NOT NULL DEFAULT '',
    version INTEGER NOT NULL DEFAULT 1
);

-- As they stood when a piece went out.
CREATE TABLE standing_frozen (
    id       INTEGER PRIMARY KEY,
    piece    INTEGER NOT NULL REFERENCES piece (number),
    standing INTEGER NOT NULL,
    text     TEXT NOT NULL,
    UNIQUE (piece, standing)
);

-- Short shapes with places to fill, and small bits that are used once.
CREATE TABLE pattern (
    number  INTEGER PRIMARY KEY AUTOINCREMENT,
    kind    TEXT NOT NULL,
    name    TEXT NOT NULL,
    text    TEXT NOT NULL,
    used_at TEXT,
    version INTEGER NOT NULL DEFAULT 1
);

-- Short posts of a day.
CREATE TABLE post (
    number   INTEGER PRIMARY KEY AUTOINCREMENT,
    day      TEXT NOT NULL,
    text     TEXT NOT NULL DEFAULT '',
    ready_at TEXT,
    sent_at  TEXT,
    version  INTEGER NOT NULL DEFAULT 1
);
CREATE INDEX post_day ON post (day);

-- Whether the parts of a thread are numbered, and which were copied out, in which words.
ALTER TABLE piece ADD COLUMN numbered INTEGER NOT NULL DEFAULT 0;
CREATE TABLE thread_copied (
    id    INTEGER PRIMARY KEY,
    piece INTEGER NOT NULL REFERENCES piece (number),
    nth   INTEGER NOT NULL,
    text  TEXT NOT NULL,
    UNIQUE (piece, nth)
);

INSERT INTO pattern (kind, name, text) VALUES
    ('opening', 'A thing and its price', '{{ thing }} cost {{ price }} at {{ place }}. {{ what_it_bought }}'),
    ('opening', 'Somebody at a place', 'On {{ day }}, {{ somebody }} stood at {{ place }} and {{ did_what }}.'),
    ('opening', 'What everybody says', 'Everybody will tell you that {{ what_is_said }}. {{ what_is_so }}'),
    ('post', 'One fact, one question', '{{ fact }} {{ question }}?'),
    ('post', 'To what is out', '{{ one_line }} The whole of it: {{ address }}'),
    ('title', 'The price of', 'The price of {{ what }}'),
    ('title', 'What somebody is never asked', 'What {{ somebody }} is never asked'),
    ('title', 'How to', 'How to {{ do_what }}');
