import { z } from "zod";
import { answered, contract, DONE } from "@/core/contract/contract";
import type { AccountsView, HandsView, MembersView } from "./account";
import { LARGEST_PICTURE, type PictureAddresses } from "./picture";
import { inviteBody, joinBody, type Invitations, type InvitationsView } from "./invitation";
import {
  accountBody,
  changePasswordBody,
  dutiesBody,
  endPersonBody,
  forgottenBody,
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
  /** The open items of somebody, by project, and who could have them. */
  hands: contract({
    method: "GET",
    path: "/api/people/:id/ended",
    answer: answered<HandsView>(),
    kept: "hands",
  }),
  /** Where the pictures of the people are that one may see. */
  pictures: contract({
    method: "GET",
    path: "/api/people/pictures",
    answer: answered<PictureAddresses>(),
    kept: "people's pictures",
  }),
  picture: contract({ method: "GET", path: "/api/people/:id/picture", answer: z.unknown() }),
  /** Sets one's own picture, or takes it away. */
  setPicture: contract({
    method: "POST",
    path: "/api/people/pictures",
    largest: LARGEST_PICTURE,
    answer: DONE,
  }),
  removePicture: contract({ method: "DELETE", path: "/api/people/pictures", answer: DONE }),
  /** Ends somebody who left, and hands on what they had; or brings them back. */
  endPerson: contract({
    method: "POST",
    path: "/api/people/:id/ended",
    body: endPersonBody,
    answer: z.object({ handedOn: z.number(), left: z.number() }),
  }),
  /** Who is invited to a project, for those who may add people. */
  invitations: contract({
    method: "GET",
    path: "/api/projects/:key/invitations",
    answer: answered<InvitationsView>(),
    kept: "invitations",
  }),
  /** Invites people to a project, or revokes an invitation. */
  invite: contract({
    method: "POST",
    path: "/api/projects/:key/invitations",
    body: inviteBody,
    answer: answered<Invitations>(),
  }),
  /** Comes into a project by an invitation, signed in. */
  join: contract({
    method: "POST",
    path: "/api/join/:token",
    body: z.object({}),
    answer: z.object({ projectKey: z.string() }),
  }),
  /** The same with a new account. */
  joinNew: contract({
    method: "POST",
    path: "/api/public/join/:token",
    body: joinBody,
    answer: z.object({ projectKey: z.string() }),
  }),
  /** Sends a link for a new password to whoever has an account with a mail address. */
  forgotten: contract({
    method: "POST",
    path: "/api/public/forgotten",
    body: forgottenBody,
    answer: DONE,
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
