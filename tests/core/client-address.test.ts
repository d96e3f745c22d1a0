import { clientAddress, trustedProxies } from "@/app/client-address";

describe("the address that a request comes from", () => {
  const from = (
    forwarded: string | string[] | undefined,
    proxies: number,
    socket: string | undefined = "::ffff:10.0.0.1",
  ) =>
    clientAddress(
      forwarded === undefined ? {} : { "x-forwarded-for": forwarded as string },
      proxies,
      socket,
    );
  test.each<[string, string | string[] | undefined, number, string]>([
    ["without a proxy a header changes nothing", "1.2.3.4", 0, "10.0.0.1"],
    ["one proxy added the last one", "6.6.6.6, 203.0.113.7", 1, "203.0.113.7"],
    [
      "whatever stands before it is the client's own tale",
      "6.6.6.6, 7.7.7.7, 203.0.113.7",
      1,
      "203.0.113.7",
    ],
    ["two proxies", "6.6.6.6, 203.0.113.7, 10.0.0.9", 2, "203.0.113.7"],
    ["the header twice is one list", ["6.6.6.6", "203.0.113.7"], 1, "203.0.113.7"],
    ["fewer addresses than proxies", "203.0.113.7", 2, "10.0.0.1"],
    ["no header behind a proxy", undefined, 1, "10.0.0.1"],
    ["empty parts", " , ,203.0.113.7", 1, "203.0.113.7"],
  ])("%s", (_name, forwarded, proxies, expected) =>
    expect(from(forwarded, proxies)).toBe(expected),
  );

  test("nobody known is said so, and nothing long is kept", () => {
    expect(clientAddress({}, 0, undefined)).toBe("unknown");
    expect(from("x".repeat(5_000), 1)).toHaveLength(64);
  });

  test("the setting is a small whole number", () => {
    expect([undefined, "", "0", "1", "2"].map(trustedProxies)).toEqual([0, 0, 0, 1, 2]);
    for (const wrong of ["yes", "-1", "1.5", "100"])
      expect(() => trustedProxies(wrong)).toThrow(/TRUST_PROXY/);
  });
});
