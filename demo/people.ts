import { roles, type Role } from "@/core/people/roles";

const account = (name: string, own: readonly Role[]) => ({
  name,
  email: `${name.toLowerCase()}@brackenfold.example`,
  roles: [...own],
  administrator: name === "Owner",
  shownPassword: `${name.toLowerCase()} of the ferns`,
});

/** One account of each role, and one that has them all. Their passwords stand on the demo's sign-in page. */
export const demoPeople = [
  account("Owner", roles),
  account("Author", ["author"]),
  account("Editor", ["editor"]),
  account("Approver", ["approver"]),
  account("Developer", ["developer"]),
];
