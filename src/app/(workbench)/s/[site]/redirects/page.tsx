import { RedirectsScreen } from "@/workbench/redirects/screen";

export default function Page() {
  return <RedirectsScreen />;
}
