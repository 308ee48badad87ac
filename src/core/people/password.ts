/** The shortest password, in characters (NIST SP 800-63B asks for 8 at least; length is what counts). */
import { t } from "../messages/t";
export const shortestPassword = 10;

/** What is wrong with a new password; undefined if nothing is. */
export const passwordProblem = (password: string): string | undefined =>
  password.length < shortestPassword
    ? t("At least {shortestPassword} characters, please: a sentence is easy to remember.", { shortestPassword })
    : password.length > 200
      ? t("At most 200 characters, please.")
      : undefined;
