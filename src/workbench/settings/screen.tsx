"use client";
import { DataFields } from "./data-fields";
import { Delivery } from "./delivery";
import { SearchSettings } from "./search-settings";
import { SiteSettings } from "./site-settings";

/** What holds for the whole site: zone, currency, language, own data, search words, place data, proxies. */
export function SettingsScreen() {
  return (
    <main className="settings">
      <h1>Settings</h1>
      <SiteSettings />
      <DataFields />
      <SearchSettings />
      <Delivery />
    </main>
  );
}
