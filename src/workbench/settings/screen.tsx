"use client";
import { t } from "@/core/messages/t";
import { BlockTypes } from "./block-types";
import { Collected } from "./collected";
import { DataFields } from "./data-fields";
import { Delivery } from "./delivery";
import { OtherHosts } from "./other-hosts";
import { PageList } from "./page-list";
import { SearchSettings } from "./search-settings";
import { SiteHosts } from "./site-hosts";
import { SiteSettings } from "./site-settings";
import { SlotList } from "./slot-list";

/** What holds for the whole site: zone, currency, pages, slots, kinds of blocks, own data, search words, hosts, place data, proxies. */
export function SettingsScreen() {
  return (
    <main className="settings">
      <h1>{t("Settings")}</h1>
      <SiteSettings />
      <SiteHosts />
      <PageList />
      <SlotList />
      <BlockTypes />
      <DataFields />
      <Collected />
      <SearchSettings />
      <OtherHosts />
      <Delivery />
    </main>
  );
}
