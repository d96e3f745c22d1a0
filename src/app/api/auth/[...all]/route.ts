import { openRoute, problem, readBytes } from "@/app/problem";
import { signUp } from "@/server/people/accounts";
import { auth } from "@/server/people/auth";
import { tryNewAccount, trySignIn } from "@/server/people/sign-in-limit";
import { accountOf } from "@/server/people/viewer";
import { signUpBody, signInBody, changePasswordBody } from "@/core/people/request";

/** Names, addresses and passwords are short. */
const LARGEST = 16 * 1024;

const tooMany = (retryAfter: number) =>
  problem(
    429,
    "Too many attempts.",
    `Wait ${Math.ceil(retryAfter / 60)} minutes, then try again. Who is signed in stays so.`,
    { code: "too many" },
    { "Retry-After": String(retryAfter) },
  );

/** Hands a request to the library, with the body that was read and checked. */
type Ask = (body: unknown) => Promise<Response>;

interface Sent {
  request: Request;
  body: unknown;
  address: string;
  ask: Ask;
}

async function signIn({ body, address, ask }: Sent): Promise<Response> {
  const { email, password } = signInBody.parse(body);
  const attempt = await trySignIn(email, address);
  if (!attempt.allowed) return tooMany(attempt.retryAfter);
  const answer = await ask({ email, password });
  if (answer.ok) await attempt.succeed();
  return answer;
}

async function makeAccount({ body, address, ask }: Sent): Promise<Response> {
  const wanted = signUpBody.parse(body);
  const use = await tryNewAccount(address);
  return use.allowed ? signUp(wanted, () => ask(wanted)) : tooMany(use.retryAfter);
}

/** A new password ends all other sessions of its person. */
async function changePassword({ request, body, address, ask }: Sent): Promise<Response> {
  const who = await accountOf(request.headers);
  if (!who) return problem(401, "You are not signed in.", "Sign in again.", { code: "signed out" });
  const change = changePasswordBody.parse(body);
  const attempt = await trySignIn(who.email, address);
  if (!attempt.allowed) return tooMany(attempt.retryAfter);
  const answer = await ask({ ...change, revokeOtherSessions: true });
  if (!answer.ok)
    return problem(
      422,
      "That is not your present password.",
      "Nothing was changed. Try again; an administrator can give you a link for a new one.",
      { code: "invalid" },
    );
  await attempt.succeed();
  return answer;
}

/** What of the library is used; its other addresses are not there. */
const POSTS: Record<string, (sent: Sent) => Promise<Response>> = {
  "sign-in/email": signIn,
  "sign-up/email": makeAccount,
  "change-password": changePassword,
  "sign-out": ({ ask }) => ask({}),
};

const nowhere = () => problem(404, "There is no such address.", "Use the product's own pages.");

export const POST = openRoute<{ all: string[] }>(async (request, { all }) => {
  const handle = Object.hasOwn(POSTS, all.join("/")) ? POSTS[all.join("/")] : null;
  if (!handle) return nowhere();
  const text = (await readBytes(request, LARGEST)).toString("utf8").replaceAll("\\u0000", "");
  let body: unknown;
  try {
    body = text.trim() === "" ? {} : JSON.parse(text);
  } catch {
    return problem(400, "This is no JSON.", "Check the text that was sent.", { code: "invalid" });
  }
  const headers = new Headers(request.headers);
  headers.delete("content-length");
  const ask: Ask = (checked) =>
    auth().handler(
      new Request(request.url, { method: "POST", headers, body: JSON.stringify(checked) }),
    );
  return handle({
    request,
    body,
    address: request.headers.get("x-client-address") ?? "unknown",
    ask,
  });
});

export const GET = openRoute<{ all: string[] }>(async (request, { all }) =>
  all.join("/") === "get-session" ? auth().handler(request) : nowhere(),
);
