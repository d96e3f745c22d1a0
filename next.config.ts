import type { NextConfig } from "next";

const POLICY =
  "default-src 'self'; script-src 'self' 'unsafe-inline'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; font-src 'self'; connect-src 'self'; base-uri 'self'; form-action 'self'";

const COMMON = [
  { key: "X-Content-Type-Options", value: "nosniff" },
  { key: "Referrer-Policy", value: "same-origin" },
];

const config: NextConfig = {
  // A test run builds into a folder of its own, beside the one that a running product uses.
  distDir: process.env.NEXT_DIST_DIR ?? ".next",
  // Handlers that routes are measured against are there in what bin/bench builds, nowhere else.
  pageExtensions: process.env.BENCH ? ["tsx", "ts", "bench.ts"] : ["tsx", "ts"],
  poweredByHeader: false,
  // No picture is fetched and made smaller for whoever asks: the product shows its own.
  images: { unoptimized: true },
  serverExternalPackages: ["pg", "pino"],
  typescript: { ignoreBuildErrors: true },
  async headers() {
    return [
      // Forms that their project lets other sites show in a frame; the page itself answers only for
      // those.
      {
        source: "/embed/:path*",
        headers: [
          ...COMMON,
          { key: "Content-Security-Policy", value: `${POLICY}; frame-ancestors *` },
        ],
      },
      {
        source: "/((?!embed/|api/).*)",
        headers: [
          ...COMMON,
          { key: "X-Frame-Options", value: "DENY" },
          { key: "Content-Security-Policy", value: `${POLICY}; frame-ancestors 'none'` },
        ],
      },
      // What programs are answered, and files from outside: nothing in them may run, wherever they
      // are opened.
      {
        source: "/api/:path*",
        headers: [
          ...COMMON,
          { key: "X-Frame-Options", value: "DENY" },
          {
            key: "Content-Security-Policy",
            value: "default-src 'none'; sandbox; frame-ancestors 'none'",
          },
        ],
      },
    ];
  },
};

export default config;
