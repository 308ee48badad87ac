import { PeopleScreen } from "@/workbench/people/screen";
import { titleOf } from "@/workbench/parts/desk/screens";

export const generateMetadata = () => titleOf("/people");

export default function Page() {
  return <PeopleScreen />;
}
