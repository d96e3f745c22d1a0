import { problem } from "@/app/problem";
import { withToldStatus } from "@/app/told-status";
import { TOLD_STATUS, WANTS_STATUS_TOLD } from "@/core/contract/told-status";

const ours = new Request("http://zigzag.example/api", { headers: { [WANTS_STATUS_TOLD]: "yes" } });
const foreign = new Request("http://zigzag.example/api");

const refusal = (status: number) =>
  problem({
    status,
    title: "The limit of Review is reached.",
    detail: "Finish something there first.",
    headers: { "Retry-After": "7" },
  });

describe("the status of a refusal", () => {
  test.each([400, 401, 403, 404, 409, 413, 422, 429])(
    "%i is told in a header to our own pages, with the same words and headers",
    async (status) => {
      const answer = withToldStatus(ours, refusal(status));
      expect(answer.status).toBe(200);
      expect(answer.headers.get(TOLD_STATUS)).toBe(String(status));
      expect(answer.headers.get("Retry-After")).toBe("7");
      expect(answer.headers.get("Content-Type")).toBe("application/problem+json");
      expect(await answer.json()).toEqual(await refusal(status).json());
    },
  );

  test("is the answer's own for every other program", () => {
    const answer = withToldStatus(foreign, refusal(422));
    expect(answer.status).toBe(422);
    expect(answer.headers.has(TOLD_STATUS)).toBe(false);
  });

  test.each([200, 201, 304, 500, 503])("%i, which refuses nothing, stays as it is", (status) => {
    const answer = new Response(null, { status });
    expect(withToldStatus(ours, answer)).toBe(answer);
  });
});
