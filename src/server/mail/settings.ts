/** How mail leaves and comes in; from the environment, as any other server needs them. */
export interface MailSettings {
  /** The part behind the @ of the product's addresses. */
  domain: string;
  /** Null where no mail is sent. */
  outgoing: {
    host: string;
    port: number;
    secure: boolean;
    auth?: { user: string; pass: string };
  } | null;
  /**
   * Where mail for the product's addresses is handed over by SMTP, on loopback: a port, any that is
   * free, or nowhere.
   */
  doorPort: number | "any" | null;
}

export function mailSettings(env: NodeJS.ProcessEnv = process.env): MailSettings {
  const {
    MAIL_HOST,
    MAIL_PORT,
    MAIL_SECURE,
    MAIL_USER,
    MAIL_PASSWORD,
    MAIL_DOMAIN,
    MAIL_DOOR_PORT,
  } = env;
  return {
    domain: MAIL_DOMAIN || "post.localhost",
    outgoing: MAIL_HOST
      ? {
          host: MAIL_HOST,
          port: Number(MAIL_PORT || 587),
          secure: MAIL_SECURE === "1",
          ...(MAIL_USER ? { auth: { user: MAIL_USER, pass: MAIL_PASSWORD ?? "" } } : {}),
        }
      : null,
    doorPort: MAIL_DOOR_PORT === "any" ? "any" : MAIL_DOOR_PORT ? Number(MAIL_DOOR_PORT) : null,
  };
}

/** Where a page of the product is, for letters that lead to it. */
export const appAddress = (path: string, env: NodeJS.ProcessEnv = process.env) =>
  `${(env.APP_URL || "http://localhost:4310").replace(/\/$/, "")}${path}`;

/** Where the private page of a report is. */
export const pageAddress = (token: string, env: NodeJS.ProcessEnv = process.env) =>
  appAddress(`/r/${token}`, env);
