import { QueryClient, QueryObserver } from "@tanstack/react-query";
import { readAnew } from "@/ui/kit/read-anew";

describe("reading again while the first reading is under way", () => {
  const opened = () => {
    const answers: ((said: string) => void)[] = [];
    const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
    const queryKey = ["item", "TIX-1"];
    const seen = new QueryObserver(client, {
      queryKey,
      queryFn: () => new Promise<string>((answer) => answers.push(answer)),
    });
    const close = seen.subscribe(() => {});
    const turns = () => new Promise((turn) => setImmediate(turn));
    return { answers, client, queryKey, close, turns };
  };

  test("what was answered before the change is asked for once more", async () => {
    const { answers, client, queryKey, close, turns } = opened();
    const again = readAnew(client, { queryKey });
    answers[0]!("as it was");
    await turns();
    expect(answers).toHaveLength(2);
    answers[1]!("as it is");
    await again;
    expect(client.getQueryData(queryKey)).toBe("as it is");
    close();
    client.clear();
  });

  test("what was read before is asked for at once, and an older answer does not count", async () => {
    const { answers, client, queryKey, close, turns } = opened();
    answers[0]!("as it was");
    await turns();
    const older = readAnew(client, { queryKey });
    await turns();
    const again = readAnew(client, { queryKey });
    await turns();
    answers[2]!("as it is");
    answers[1]!("in between");
    await Promise.all([older, again]);
    expect(client.getQueryData(queryKey)).toBe("as it is");
    close();
    client.clear();
  });
});
