import { DEMO_PASSWORD, mailOf } from "@demo/people";

/** The cookies of somebody of the demo world who signed in, as `name=value`, got by password as a program would. */
export async function cookiesOf(address: string, name: string): Promise<string[]> {
  const answer = await fetch(`${address}/api/auth/sign-in/email`, {
    method: "POST",
    headers: { "Content-Type": "application/json", origin: address },
    body: JSON.stringify({ email: mailOf({ name }), password: DEMO_PASSWORD }),
  });
  if (!answer.ok) throw new Error(`${name} cannot sign in: ${answer.status}`);
  return answer.headers.getSetCookie().map((cookie) => cookie.split(";")[0]);
}
