import { withoutQuote } from "@/core/formats/mail-quote";
import {
  answered,
  MOST_WORDS,
  notTaken,
  ownWords,
  plainHeaders,
  titleOf,
  writerOf,
} from "@/core/formats/mail-text";
import { readMail } from "@/server/mail/read";

/*
 * Messages written after the examples of RFC 5322 (appendix A: ordinary, with replies, resent, with
 * traces, with white space and comments in odd places, and obsolete ones), RFC 2047 (section 8:
 * words in other charsets), RFC 2046 (multipart), RFC 3676 (flowed text and signatures), RFC 3834
 * (automatic answers) and RFC 3464 (delivery reports). What is expected follows from the text of
 * those documents.
 */

const mail = (lines: string, encoding: BufferEncoding = "utf8") =>
  Buffer.from(lines.replace(/^\n/, "").replaceAll("\n", "\r\n"), encoding);
const read = (lines: string, encoding?: BufferEncoding) =>
  readMail(mail(lines, encoding), "envelope@post.saltmarsh.example");

describe("headers", () => {
  test("an ordinary message (RFC 5322, A.1.1)", async () => {
    expect(
      await read(`
From: Jonna Reef <jonna@post.saltmarsh.example>
To: Tickets <tickets@in.saltmarsh.example>
Subject: Saying Hello
Date: Fri, 21 Nov 1997 09:55:06 -0600
Message-ID: <1234@local.machine.example>

This is a message just to say hello.
So, "Hello".
`),
    ).toMatchObject({
      messageId: "<1234@local.machine.example>",
      sender: "jonna@post.saltmarsh.example",
      subject: "Saying Hello",
      text: 'This is a message just to say hello.\nSo, "Hello".\n',
      files: [],
    });
  });

  test("answers go to Reply-To where there is one (3.6.2), a quoted name and a group do not disturb (A.1.2, A.1.3)", async () => {
    const { sender } = await read(`
From: "Tern & Sons: \\"Boats\\"" <one@post.saltmarsh.example>
Reply-To: "Office, upstairs" <Two@Post.Saltmarsh.Example>
To: A Group:Ed <ed@post.saltmarsh.example>,lo@post.saltmarsh.example;
Cc: Undisclosed recipients:;

x
`);
    expect(sender).toBe("two@post.saltmarsh.example");
  });

  test.each<[string, string, string, boolean]>([
    [
      "an empty Reply-To",
      "From: Anna <anna@post.saltmarsh.example>\nReply-To: <>",
      "anna@post.saltmarsh.example",
      true,
    ],
    [
      "a Reply-To that is no address",
      "From: anna@post.saltmarsh.example\nReply-To: somebody",
      "anna@post.saltmarsh.example",
      true,
    ],
    ["a From without address", "From: Anna", "envelope@post.saltmarsh.example", true],
    [
      "another Reply-To",
      "From: anna@post.saltmarsh.example\nReply-To: other@post.saltmarsh.example",
      "other@post.saltmarsh.example",
      false,
    ],
    [
      "a Reply-To in a group",
      "From: anna@post.saltmarsh.example\nReply-To: Office: anna@post.saltmarsh.example;",
      "anna@post.saltmarsh.example",
      true,
    ],
  ])(
    "%s: where an answer goes, and whether they wrote it",
    async (_name, head, sender, senderWrote) => {
      const mail = await read(`\n${head}\n\nx\n`);
      expect(mail).toMatchObject({ sender, senderWrote });
      expect(writerOf(mail.headers, "envelope@post.saltmarsh.example")).toBe("person");
    },
  );

  test("headers of what nothing else can read", () => {
    const headers = plainHeaders(
      "From: a\r\nSubject: one\r\n two\r\nconstructor: x\r\n: nothing\r\n\r\nSubject: in the body",
    );
    expect(headers).toEqual({ from: ["a"], subject: ["one two"], constructor: ["x"] });
  });

  test("white space, comments and folding in odd places (A.5)", async () => {
    const { sender, subject, headers } = await read(`
From: Petra(A nice \\) person) <petra(his account)@post(the host).saltmarsh.example>
To:(Empty list)(start)Hidden recipients  :(nobody(that I know))  ;
Subject: A subject that
 goes on
\ton a third line
In-Reply-To: <first@in.saltmarsh.example>(comment)
References: <a@in.saltmarsh.example>
 <b@in.saltmarsh.example>

Testing.
`);
    expect(sender).toMatch(/^petra/);
    expect(subject).toBe("A subject that goes on on a third line");
    expect(answered(headers)).toEqual([
      "<first@in.saltmarsh.example>",
      "<b@in.saltmarsh.example>",
      "<a@in.saltmarsh.example>",
    ]);
  });

  test("a resent message keeps who wrote it (A.3); traces do not matter (A.4)", async () => {
    const { sender, messageId } = await read(`
Received: from x.y.example
   by node.example; 21 Nov 1997 10:01:22 -0600
Resent-From: Mary <mary@post.saltmarsh.example>
Resent-To: Jane <j-brown@post.saltmarsh.example>
Resent-Message-ID: <78910@example.net>
From: Jonna <jonna@post.saltmarsh.example>
Message-ID: <1234@local.machine.example>

Hello.
`);
    expect([sender, messageId]).toEqual([
      "jonna@post.saltmarsh.example",
      "<1234@local.machine.example>",
    ]);
  });

  test("words in other charsets (RFC 2047, section 8), split between two words", async () => {
    const { subject } = await read(`
From: =?ISO-8859-1?Q?Andr=E9?= Quay <andre@post.saltmarsh.example>
Subject: =?ISO-8859-1?B?SWYgeW91IGNhbiByZWFkIHRoaXMgeW8=?=
 =?ISO-8859-2?B?dSB1bmRlcnN0YW5kIHRoZSBleGFtcGxlLg==?= =?UTF-8?Q?_caf=C3=A9?=

x
`);
    expect(subject).toBe("If you can read this you understand the example. café");
  });

  test("nothing but a body has an id of its own, the same each time, and is from where the envelope says", async () => {
    const [one, two, other] = [
      await read("\n\nonly words\n"),
      await read("\n\nonly words\n"),
      await read("\n\nother words\n"),
    ];
    expect(one.messageId).toBe(two.messageId);
    expect(one.messageId).not.toBe(other.messageId);
    expect(one.sender).toBe("envelope@post.saltmarsh.example");
  });
});

describe("bodies", () => {
  test.each<[name: string, head: string, body: string, encoding: BufferEncoding, text: RegExp]>([
    [
      "quoted-printable with a soft line break",
      "text/plain; charset=utf-8\nContent-Transfer-Encoding: quoted-printable",
      "The caf=C3=A9 on the quay is=\n closed =E2=80=93 again",
      "utf8",
      /^The café on the quay is closed – again/,
    ],
    [
      "base64",
      "text/plain; charset=utf-8\nContent-Transfer-Encoding: base64",
      Buffer.from("Gate 4 stays open.").toString("base64"),
      "utf8",
      /^Gate 4 stays open\./,
    ],
    [
      "Latin-1 in eight bits",
      "text/plain; charset=iso-8859-1\nContent-Transfer-Encoding: 8bit",
      "Gr\u00fc\u00dfe vom Kai",
      "latin1",
      /^Grüße vom Kai/,
    ],
    [
      "Windows-1252 with its own quotes",
      "text/plain; charset=windows-1252\nContent-Transfer-Encoding: quoted-printable",
      "=93Closed=94 =96 again",
      "utf8",
      /^“Closed” – again/,
    ],
    [
      "KOI8-R",
      "text/plain; charset=koi8-r\nContent-Transfer-Encoding: base64",
      "8NLJ18XU",
      "utf8",
      /^Привет/,
    ],
    [
      "a charset that nobody knows",
      "text/plain; charset=x-harbour-7",
      "Plain words all the same",
      "utf8",
      /^Plain words all the same/,
    ],
    [
      "flowed text (RFC 3676)",
      "text/plain; charset=utf-8; format=flowed; delsp=no",
      "The boat \nwas late.",
      "utf8",
      /^The boat was late\./,
    ],
    [
      "control characters and a null",
      "text/plain",
      "be\u0000fore\u0007 and after\u001b[31m",
      "utf8",
      /^before and after\[31m/,
    ],
    ["lone line feeds instead of line ends", "text/plain", "one\ntwo", "utf8", /^one\ntwo/],
  ])("%s", async (_name, type, body, encoding, text) => {
    expect(
      (
        await read(
          `\nFrom: a@post.saltmarsh.example\nMIME-Version: 1.0\nContent-Type: ${type}\n\n${body}\n`,
          encoding,
        )
      ).text,
    ).toMatch(text);
  });

  test("a mail of HTML alone is read as its words; scripts and styles are no words", async () => {
    const { text } = await read(`
From: a@post.saltmarsh.example
Content-Type: text/html; charset=utf-8

<html><head><style>p{color:red}</style><script>alert(1)</script></head><body><p>Gate&nbsp;4 is <b>open</b> &amp; loud.</p><ul><li>since 22:00</li></ul></body></html>
`);
    expect(text).toMatch(/Gate.4 is open & loud\./);
    expect(text).toContain("since 22:00");
    expect(text).not.toMatch(/alert|color:red|</);
  });

  test("of two ways to say it the plain one counts; a picture in the text and a file come along, a program does not", async () => {
    const PNG =
      "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==";
    const { text, files } = await read(`
From: a@post.saltmarsh.example
MIME-Version: 1.0
Content-Type: multipart/mixed; boundary="outer"

What stands before the first boundary is not read.
--outer
Content-Type: multipart/related; boundary=inner

--inner
Content-Type: multipart/alternative; boundary="alt"

--alt
Content-Type: text/plain; charset=us-ascii

The plain words.
--alt
Content-Type: text/html

<p>The <img src="cid:pic@x"> words.</p>
--alt--
--inner
Content-Type: image/png; name="gate.png"
Content-Transfer-Encoding: base64
Content-ID: <pic@x>
Content-Disposition: inline

${PNG}
--inner--
--outer
Content-Type: application/octet-stream; name="=?UTF-8?Q?log_=E2=80=AE.txt?="
Content-Disposition: attachment; filename*=UTF-8''..%2F..%2Flog%20%E2%80%AE.txt
Content-Transfer-Encoding: base64

${Buffer.from("22:00 gate open").toString("base64")}
--outer
Content-Type: image/png; name="harmless.png"
Content-Disposition: attachment
Content-Transfer-Encoding: base64

${Buffer.from("MZ\u0090\u0000\u0003program").toString("base64")}
--outer--
`);
    expect(text.trim()).toBe("The plain words.");
    expect(files.map((f) => [f.mediaType, f.name])).toEqual([
      ["image/png", "gate.png"],
      ["text/plain", "log .txt"],
    ]);
  });

  const HTML = "Content-Type: text/html; charset=utf-8\n\n<p>Gate 4 <b>hums</b> at night.</p>";
  const BLANK = "Content-Type: text/plain\n\n \n";
  const PICTURE =
    "Content-Type: image/png\nContent-ID: <x>\nContent-Transfer-Encoding: base64\n\niVBORw0KGgo=";
  const parts = (kind: string, ...inside: string[]) => {
    const boundary = `b${kind}${inside.join("").length}`;
    return `Content-Type: multipart/${kind}; boundary=${boundary}\n\n${inside.map((p) => `--${boundary}\n${p}\n`).join("")}--${boundary}--\n`;
  };
  test.each<[string, string]>([
    ["mixed[html]", parts("mixed", HTML)],
    ["related[html, picture]", parts("related", HTML, PICTURE)],
    ["alternative[blank, html]", parts("alternative", BLANK, HTML)],
    ["alternative[html]", parts("alternative", HTML)],
    [
      "mixed[related[alternative[blank, html], picture], blank]",
      parts("mixed", parts("related", parts("alternative", BLANK, HTML), PICTURE), BLANK),
    ],
    ["mixed[alternative[html], file]", parts("mixed", parts("alternative", HTML), PICTURE)],
  ])("HTML alone keeps its words inside %s", async (_name, body) => {
    expect(
      (await read(`\nFrom: a@post.saltmarsh.example\nMIME-Version: 1.0\n${body}`)).text,
    ).toContain("Gate 4 hums at night.");
  });

  test("what is not taken is named, with why", async () => {
    const { files, left } = await read(
      `\nFrom: a@post.saltmarsh.example\nMIME-Version: 1.0\n${parts("mixed", "Content-Type: text/plain\n\nSee there", "Content-Type: application/zip; name=log.zip\nContent-Disposition: attachment; filename=log.zip\nContent-Transfer-Encoding: base64\n\nUEsDBAoAAAAAAA==")}`,
    );
    expect(files).toEqual([]);
    expect(left).toEqual([{ name: "log.zip", why: expect.stringContaining("not taken") }]);
    expect(notTaken(left)).toContain("- log.zip:");
    expect(notTaken([])).toBe("");
  });

  test("a long mail is cut between letters, and says that it goes on", () => {
    const { text, cut } = ownWords(`${"a".repeat(9_944)}${"🚢".repeat(100)}`);
    expect(cut).toBe(true);
    expect(text.length).toBeLessThanOrEqual(MOST_WORDS);
    expect(text).toMatch(/As it came it is with the files/);
    expect(text).not.toMatch(/[\ud800-\udbff](?![\udc00-\udfff])/);
    expect(ownWords("short")).toEqual({ text: "short", cut: false });
  });

  test("a multipart that breaks off is read as far as it goes", async () => {
    const { text } = await read(
      "\nFrom: a@post.saltmarsh.example\nMIME-Version: 1.0\nContent-Type: multipart/mixed; boundary=b\n\n--b\nContent-Type: text/plain\n\nThe first words\n--b\nContent-Type: image/png\nContent-Transfer-Encoding: base64\n\niVBOR",
    );
    expect(text).toContain("The first words");
  });

  test("twenty thousand nested parts are refused in words, a header of a megabyte is cut", async () => {
    const nested = Array.from(
      { length: 20_000 },
      (_, i) => `Content-Type: multipart/mixed; boundary=b${i}\n\n--b${i}`,
    ).join("\n");
    await expect(
      read(`\nFrom: a@post.saltmarsh.example\nMIME-Version: 1.0\n${nested}\n`),
    ).rejects.toMatchObject({ refusal: { code: "invalid" } });
    const { subject } = await read(
      `\nFrom: a@post.saltmarsh.example\nSubject: ${"x".repeat(1_000_000)}\n\nwords\n`,
    );
    expect(subject.length).toBeLessThanOrEqual(300);
  });
});

describe("what a person wrote themselves", () => {
  test.each<[string, string, string]>([
    [
      "an answer above its quote",
      "It was Saturday.\n\nOn Mon, 3 Nov 2025 at 10:12, Tickets <tickets@in.saltmarsh.example> wrote:\n> Which night was it?\n>\n> R-ABC",
      "It was Saturday.",
    ],
    [
      "the attribution on two lines",
      "Saturday.\n\nOn Mon, 3 Nov 2025 at 10:12, Tickets on the Quay\n<tickets@in.saltmarsh.example> wrote:\n\n> Which night?",
      "Saturday.",
    ],
    [
      "in other languages",
      "Samstag.\n\nAm 3. Nov. 2025 um 10:12 schrieb Tickets:\n> Welche Nacht?",
      "Samstag.",
    ],
    [
      "a header block instead of marks",
      "Saturday.\n\nFrom: Tickets\nSent: Monday\nTo: Anna\nSubject: A question\n\nWhich night was it?",
      "Saturday.",
    ],
    ["a line of its own", "Saturday.\n\n----- Original Message -----\nWhich night?", "Saturday."],
    ["a signature (RFC 3676, 4.3)", "Saturday.\n-- \nAnna\nHeron island", "Saturday."],
    [
      "answers between the quoted lines stay with them",
      "On Monday Tickets wrote:\n> Which night?\nSaturday.\n> Which gate?\nThe left one.",
      "On Monday Tickets wrote:\n> Which night?\nSaturday.\n> Which gate?\nThe left one.",
    ],
    [
      "nothing but a quote: better too much than a lost word",
      "> Which night?\n> Saturday",
      "> Which night?\n> Saturday",
    ],
    [
      "a sentence with “wrote:” in it is no quote",
      "The crew wrote:\nno boat today.",
      "The crew wrote:\nno boat today.",
    ],
    [
      "fields that are named like headers",
      "Steps:\nFrom: quay 4\nTo: quay 2\nThe gate stays shut.",
      "Steps:\nFrom: quay 4\nTo: quay 2\nThe gate stays shut.",
    ],
    [
      "a header block in bold",
      "Saturday.\n\n*From:* Tickets\n*Sent:* Monday\n*To:* Anna\n*Subject:* A question\n\nWhich night?",
      "Saturday.",
    ],
    [
      "who somebody is, and no quote below",
      "Talk to Jonna <jonna@post.saltmarsh.example> about it:\nshe knows the gate.\n> a line of a log\nand more",
      "Talk to Jonna <jonna@post.saltmarsh.example> about it:\nshe knows the gate.\n> a line of a log\nand more",
    ],
    [
      "a sentence that begins like an attribution",
      "On Monday the crew wrote:\nno boat today.",
      "On Monday the crew wrote:\nno boat today.",
    ],
    [
      "a quote without marks, of which day and hour stand above",
      "Saturday.\n\nOn Mon, 3 Nov 2025 at 10:12, Tickets wrote:\n\nWhich night was it?",
      "Saturday.",
    ],
    [
      "a signature mark that lost its space",
      "I saw\n- a light\n--\nand a bell",
      "I saw\n- a light",
    ],
  ])("%s", (_name, text, own) => expect(withoutQuote(text)).toBe(own));

  test.each([
    ["Re: AW: Fwd: Gate 4 hums", "x", "Gate 4 hums"],
    ["RE[2]: Gate", "x", "Gate"],
    ["Regarding the gate", "x", "Regarding the gate"],
    ["", "\n  First line\nsecond", "First line"],
    ["Re:", "", "A mail without words"],
  ])("the subject %p becomes a title", (subject, text, title) =>
    expect(titleOf(subject, text)).toBe(title),
  );
});

describe("who wrote it", () => {
  const writer = async (head: string, returnPath: string | null = "a@post.saltmarsh.example") =>
    writerOf((await read(`\n${head}\n\nx\n`)).headers, returnPath);
  test.each<[string, string, string | null, string]>([
    ["a person", "From: a@post.saltmarsh.example", "a@post.saltmarsh.example", "person"],
    [
      "Auto-Submitted: no is a person (RFC 3834, 5)",
      "From: a@post.saltmarsh.example\nAuto-Submitted: no",
      "a@post.saltmarsh.example",
      "person",
    ],
    [
      "an automatic answer",
      "From: a@post.saltmarsh.example\nAuto-Submitted: auto-replied",
      "a@post.saltmarsh.example",
      "automatic",
    ],
    [
      "one with a comment in it",
      "From: a@post.saltmarsh.example\nAuto-Submitted: auto-replied (out of office); owner=a",
      "a@post.saltmarsh.example",
      "automatic",
    ],
    [
      "a list",
      "From: a@post.saltmarsh.example\nList-Id: <boats.post.saltmarsh.example>",
      "a@post.saltmarsh.example",
      "automatic",
    ],
    [
      "bulk",
      "From: a@post.saltmarsh.example\nPrecedence: bulk",
      "a@post.saltmarsh.example",
      "automatic",
    ],
    [
      "a delivery report (RFC 3464)",
      'From: MAILER-DAEMON@x.example\nContent-Type: multipart/report; report-type=delivery-status; boundary="b"',
      "",
      "bounce",
    ],
    ["an empty return path (RFC 5321, 4.5.5)", "From: a@post.saltmarsh.example", "", "bounce"],
    [
      "a mail of our own",
      "From: tickets@in.saltmarsh.example\nX-Zigzag-Lane: 1\nAuto-Submitted: auto-generated",
      "tickets@in.saltmarsh.example",
      "loop",
    ],
    [
      "one that went in circles",
      `From: a@post.saltmarsh.example\n${Array.from({ length: 40 }, (_, i) => `Received: from h${i}.example by h${i + 1}.example; Mon, 3 Nov 2025 10:00:00 +0000`).join("\n")}`,
      "a@post.saltmarsh.example",
      "loop",
    ],
  ])("%s", async (_name, head, returnPath, expected) =>
    expect(await writer(head, returnPath)).toBe(expected),
  );
});
