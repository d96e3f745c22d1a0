import { openRoute, problem, readBytes } from "@/app/problem";
import { signUp } from "@/server/people/accounts";
import { auth } from "@/server/people/auth";
import { tryNewAccount, trySignIn } from "@/server/people/sign-in-limit";
import { accountOf } from "@/server/people/viewer";
import { signUpBody, signInBody, changePasswordBody } from "@/core/people/request";

/** Names, addresses and passwords are short. */
const LARGEST = 16 * 1024;

const tooMany = (retryAfter: number) =>
  problem({
    status: 429,
    title: "Too many attempts.",
    detail: `Wait ${Math.ceil(retryAfter / 60)} minutes, then try again. Who is signed in stays so.`,
    more: { code: "too many" },
    headers: { "Retry-After": String(retryAfter) },
  });

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
  if (!who)
    return problem({
      status: 401,
      title: "You are not signed in.",
      detail: "Sign in again.",
      more: { code: "signed out" },
    });
  const change = changePasswordBody.parse(body);
  const attempt = await trySignIn(who.email, address);
  if (!attempt.allowed) return tooMany(attempt.retryAfter);
  const answer = await ask({ ...change, revokeOtherSessions: true });
  if (!answer.ok)
    return problem({
      status: 422,
      title: "That is not your present password.",
      detail: "Nothing was changed. Try again; an administrator can give you a link for a new one.",
      more: { code: "invalid" },
    });
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

const nowhere = () =>
  problem({
    status: 404,
    title: "There is no such address.",
    detail: "Use the product's own pages.",
  });

export const POST = openRoute<{ all: string[] }>(async (request, { all }) => {
  const handle = Object.hasOwn(POSTS, all.join("/")) ? POSTS[all.join("/")] : null;
  if (!handle) return nowhere();
  const text = (await readBytes(request, LARGEST)).toString("utf8").replaceAll("\\u0000", "");
  let body: unknown;
  try {
    body = text.trim() === "" ? {} : JSON.parse(text);
  } catch {
    return problem({
      status: 400,
      title: "This is no JSON.",
      detail: "Check the text that was sent.",
      more: { code: "invalid" },
    });
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
