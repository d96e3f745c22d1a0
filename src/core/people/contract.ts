import { z } from "zod";
import { answered, contract } from "@/core/contract/contract";
import type { AccountsView, MembersView } from "./account";
import {
  accountBody,
  changePasswordBody,
  dutiesBody,
  memberBody,
  signInBody,
  signUpBody,
  welcomeBody,
} from "./request";

export const peopleContract = {
  /** Who works in a project, and who could be added. */
  members: contract({
    method: "GET",
    path: "/api/projects/:key/members",
    answer: answered<MembersView>(),
    kept: "members",
  }),
  /** Gives a person a role in a project, or takes them out. */
  setMember: contract({
    method: "POST",
    path: "/api/projects/:key/members",
    body: memberBody,
    answer: answered<MembersView>(),
  }),
  /** Names who has which duty in a project, in place of all who were named. */
  setDuties: contract({
    method: "POST",
    path: "/api/projects/:key/duties",
    body: dutiesBody,
    answer: answered<MembersView>(),
  }),
  /** Everybody with an account, for administrators. */
  accounts: contract({
    method: "GET",
    path: "/api/people",
    answer: answered<AccountsView>(),
    kept: "accounts",
  }),
  /** Makes an account, or another link for one. */
  changeAccounts: contract({
    method: "POST",
    path: "/api/people",
    body: accountBody,
    answer: z.object({ personId: z.string(), token: z.string(), until: z.number() }),
    status: 201,
  }),
  /** Sets the password that a link is for. */
  welcome: contract({
    method: "POST",
    path: "/api/public/welcome/:token",
    body: welcomeBody,
    answer: z.object({ email: z.string() }),
  }),
};

/** What of the library for sessions is used; the library answers. */
export const sessionContract = {
  signIn: contract({
    method: "POST",
    path: "/api/auth/sign-in/email",
    body: signInBody,
    answer: z.unknown(),
  }),
  signUp: contract({
    method: "POST",
    path: "/api/auth/sign-up/email",
    body: signUpBody,
    answer: z.unknown(),
  }),
  signOut: contract({
    method: "POST",
    path: "/api/auth/sign-out",
    body: z.object({}),
    answer: z.unknown(),
  }),
  changePassword: contract({
    method: "POST",
    path: "/api/auth/change-password",
    body: changePasswordBody,
    answer: z.unknown(),
  }),
};

/** Whether database and worker are there; it needs no session. */
export const healthContract = contract({
  method: "GET",
  path: "/api/health",
  answer: z.unknown(),
});
