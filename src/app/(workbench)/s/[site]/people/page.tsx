import { PeopleScreen } from "@/workbench/people/screen";

export default function Page() {
  return <PeopleScreen />;
}
