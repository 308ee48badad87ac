import { RedirectsScreen } from "@/workbench/redirects/screen";
import { titleOf } from "@/workbench/parts/desk/screens";

export const generateMetadata = () => titleOf("/redirects");

export default function Page() {
  return <RedirectsScreen />;
}
