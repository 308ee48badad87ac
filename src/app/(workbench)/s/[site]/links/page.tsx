import { LinksScreen } from "@/workbench/links/screen";
import { titleOf } from "@/workbench/parts/desk/screens";

export const generateMetadata = () => titleOf("/links");

export default function Page() {
  return <LinksScreen />;
}
