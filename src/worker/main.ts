import { closeDatabase } from "@/db/connection";
import { followQuestions, wakeParkedReports } from "@/server/intake/follow-up";
import { closeMeaningThread } from "@/server/intake/meaning-thread";
import { makeMeanings } from "@/server/intake/meanings";
import { doBulkChunk } from "@/server/item/bulk/chunk";
import { fireTimers } from "@/server/item/trigger";
import { log, traced } from "@/server/log";
import { onStop, tellReady } from "@/server/supervised";
import { closeReadingThread } from "@/server/mail/reading-thread";
import { closeMail } from "@/server/mail/mailer";
import { sendAccountLetters } from "@/server/people/letters";
import { remindAcceptors } from "@/server/ship/acceptance/remind-due";
import { sendLetters } from "@/server/mail/send";
import { tellRisks } from "@/server/alerts/promises-at-risk";
import { sendAlertMails } from "@/server/alerts/send-mail";
import { sendDigests } from "@/server/alerts/send-digest";
import { mailSettings } from "@/server/mail/settings";
import { readWaitingMail } from "@/server/mail/take";
import { checkPlaces } from "@/server/events/consumer";
import { consumeEvents, CONSUMERS } from "./consumers";
import { openMailDoor, type MailDoor } from "./mail-door";
import { beat, clearOld } from "./schedule";

/*
 * The background process: follows events every half second, looks at the schedule every few
 * seconds, sends letters, and takes mail at its door. On SIGTERM it finishes what is in hand. When
 * the database is away it says so once and goes on trying.
 */

const TICK_MS = 500;
const LETTERS_MS = 1_000;
const MAIL_MS = 300;
const ALERTS_MS = 2_000;
/** Of looks for alerts to be sent. */
const DIGESTS_EVERY = 15;
const JOBS_MS = 250;
/**
 * A few texts at a time, with a pause as long as they take: at most half of one processor, and only
 * while something is new.
 */
const MEANINGS_MS = 400;
const MEANINGS_AT_ONCE = 4;
/** So many looks without anything new, about a minute, until the model is let go of. */
const MODEL_KEPT = 150;
const BEATS_EVERY = 6;
const CLEARS_EVERY = 7_200;
const TIMERS_EVERY = 120;

let stopping = false;
const asleep = new Set<() => void>();

onStop(() => {
  stopping = true;
  for (const wake of asleep) wake();
});

/**
 * Does some work over and over until the process is to stop; a failure is told once, and tried
 * again.
 */
async function keepDoing(
  what: string,
  pauseMs: number,
  work: (tick: number) => Promise<void>,
): Promise<void> {
  let failing = false;
  for (let tick = 0; !stopping; tick++) {
    try {
      await work(tick);
      if (failing) log.info({ what }, "works again");
      failing = false;
    } catch (error) {
      if (!failing)
        log.error({ what, ...traced(error) }, "worker cannot do its work, trying again");
      failing = true;
    }
    if (!stopping)
      await new Promise<void>((resolve) => {
        const wake = () => {
          clearTimeout(timer);
          asleep.delete(wake);
          resolve();
        };
        const timer = setTimeout(wake, pauseMs);
        asleep.add(wake);
      });
  }
}

async function followUp(tick: number): Promise<void> {
  if (tick % BEATS_EVERY === 0) {
    await beat();
    const woken = await wakeParkedReports();
    if (woken > 0) log.info({ woken }, "parked reports returned to the queue");
  }
  if (tick % TIMERS_EVERY === 0) {
    const moved = await fireTimers();
    if (moved > 0) log.info({ moved }, "items moved by time");
    const questions = await followQuestions();
    if (questions.reminded + questions.ended > 0)
      log.info(questions, "questions without an answer");
    const acceptors = await remindAcceptors();
    if (acceptors > 0) log.info({ acceptors }, "people reminded of what is shown to them");
    const risks = await tellRisks();
    if (risks > 0) log.info({ risks }, "people told of dates at risk");
  }
  if (tick % CLEARS_EVERY === 0) await clearOld();
  while (!stopping && (await consumeEvents()) > 0);
}

/**
 * Without its door the worker does everything else; mail waits at the server that hands it over.
 */
async function openDoor(): Promise<MailDoor | null> {
  const { doorPort } = mailSettings();
  if (doorPort === null) return null;
  try {
    return await openMailDoor(doorPort === "any" ? null : doorPort);
  } catch (error) {
    log.error({ ...traced(error), doorPort }, "the mail door does not open; no mail comes in");
    return null;
  }
}

let idle = 0;

/**
 * Gives texts their meaning. With nothing to read for a while the model is let go of, and its
 * memory with it.
 */
async function readMeanings(): Promise<void> {
  idle = (await makeMeanings(MEANINGS_AT_ONCE)) > 0 ? 0 : idle + 1;
  if (idle === MODEL_KEPT) await closeMeaningThread();
}

async function run(): Promise<void> {
  await checkPlaces(CONSUMERS);
  const door = await openDoor();
  log.info({ mailDoor: door?.port ?? null }, "worker started");
  tellReady(door ? { door: door.port } : {});
  await Promise.all([
    keepDoing("follow-up", TICK_MS, followUp),
    keepDoing("jobs on several items", JOBS_MS, async () => {
      while (!stopping && (await doBulkChunk()) > 0);
    }),
    keepDoing("letters", LETTERS_MS, async () => {
      while (!stopping && (await sendLetters()) > 0);
      while (!stopping && (await sendAccountLetters()) > 0);
    }),
    keepDoing("alerts by mail", ALERTS_MS, async (tick) => {
      while (!stopping && (await sendAlertMails()) > 0);
      if (tick % DIGESTS_EVERY === 0) await sendDigests();
    }),
    keepDoing("mail", MAIL_MS, async () => {
      while (!stopping && (await readWaitingMail()) !== null);
    }),
    process.env.MEANINGS === "off" ? undefined : keepDoing("meanings", MEANINGS_MS, readMeanings),
  ]);
  await Promise.all([closeReadingThread(), closeMeaningThread()]);
  await door?.close();
  closeMail();
  await closeDatabase();
  log.info("worker stopped");
}

void run();
