import { z } from "zod";
import { openRoute, problem, readBytes } from "@/app/problem";
import { auth } from "@/server/people/auth";
import { tryNewAccount, trySignIn } from "@/server/people/sign-in-limit";

/** Names, addresses and passwords are short. */
const LARGEST = 16 * 1024;

/** What of the library is used; its other addresses are not there. */
const OPEN = new Set(["GET get-session", "POST sign-in/email", "POST sign-out", "POST sign-up/email", "POST change-password"]);

const signInBody = z.object({ email: z.string().max(320), password: z.string().max(1_000) });

const tooMany = (retryAfter: number) =>
  problem(429, "Too many attempts.", `Wait ${Math.ceil(retryAfter / 60)} minutes, then try again. Who is signed in stays so.`, { code: "too many" }, { "Retry-After": String(retryAfter) });

const handle = openRoute<{ all: string[] }>(async (request, { all }) => {
  const what = all.join("/");
  if (!OPEN.has(`${request.method} ${what}`)) return problem(404, "There is no such address.", "Use the product's own pages.");
  if (request.method === "GET") return auth().handler(request);
  const body = await readBytes(request, LARGEST);
  const ask = () => auth().handler(new Request(request.url, { method: "POST", headers: request.headers, body: new Uint8Array(body) }));
  const address = request.headers.get("x-client-address") ?? "unknown";
  if (what === "sign-up/email") {
    const use = await tryNewAccount(address);
    return use.allowed ? ask() : tooMany(use.retryAfter);
  }
  if (what !== "sign-in/email") return ask();
  let sent: unknown;
  try {
    sent = JSON.parse(body.toString("utf8"));
  } catch {
    return problem(400, "This is no JSON.", "Check the text that was sent.", { code: "invalid" });
  }
  const { email } = signInBody.parse(sent);
  const attempt = await trySignIn(email, address);
  if (!attempt.allowed) return tooMany(attempt.retryAfter);
  const answer = await ask();
  if (answer.ok) await attempt.succeed();
  return answer;
});

export { handle as GET, handle as POST };
