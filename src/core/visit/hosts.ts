/** Hosts of web mail and of social networks that `referrer.kind` knows. Common practice in web analytics. */
const list = (text: string): Map<string, true> => new Map(text.split(/\s+/).map((host) => [host, true]));

export const mailHosts = list(
  `mail.google.com inbox.google.com com.google.android.gm gmail.com outlook.live.com outlook.office.com
  outlook.office365.com outlook.com hotmail.com mail.live.com mail.yahoo.com mail.yahoo.net mail.yahoo.co.uk
  mail.yahoo.co.jp mail.aol.com mail.proton.me mail.protonmail.com mail.yandex.ru mail.yandex.com e.mail.ru mail.ru
  mail.zoho.com mail.zoho.eu mail.qq.com mail.163.com mail.126.com mail.naver.com mail.daum.net webmail.free.fr
  webmail.orange.fr mail.orange.fr mail.tiscali.it mail.libero.it mail.sapo.pt mail.gmx.net mail.gmx.com navigator.gmx.net
  navigator.web.de webmail.aruba.it webmail.optuszoo.com.au webmail.iinet.net.au webmail.bigpond.com webmail2.bigpond.com
  app.fastmail.com fastmail.com tutanota.com mail.tutanota.com app.tuta.com mail.icloud.com icloud.com zimbra.free.fr`,
);

export const socialHosts = list(
  `facebook.com fb.com fb.me instagram.com twitter.com x.com t.co linkedin.com lnkd.in com.linkedin.android pinterest.com
  pinterest.pt pinterest.es pinterest.de pinterest.fr pinterest.co.uk pinterest.it pinterest.at pinterest.ca pin.it
  reddit.com redd.it com.reddit.frontpage youtube.com youtu.be tiktok.com tumblr.com vk.com vkontakte.ru ok.ru
  odnoklassniki.ru my.mail.ru weibo.com weibo.cn t.cn whatsapp.com wa.me telegram.org t.me org.telegram.messenger
  snapchat.com threads.net threads.com mastodon.social mastodon.online bsky.app quora.com xing.com flickr.com vimeo.com
  discord.com twitch.tv news.ycombinator.com line.me viber.com meetup.com foursquare.com badoo.com tagged.com myspace.com
  last.fm livejournal.com livejournal.ru hi5.com hyves.nl orkut.com plus.google.com plus.url.google.com viadeo.com
  sonico.com skyrock.com renren.com douban.com kaixin001.com mixi.jp nk.pl netlog.com classmates.com friendster.com
  deviantart.com dribbble.com behance.net github.com stackoverflow.com stackexchange.com stumbleupon.com delicious.com
  digg.com slashdot.org geni.com gaiaonline.com fotolog.com habbo.com multiply.com ning.com plaxo.com xanga.com
  cyworld.com draugiem.lv studivz.net wer-kennt-wen.de lang-8.com couchsurfing.org buzznet.com blackplanet.com
  cafemom.com care2.com faceparty.com flixster.com friendsreunited.com haboo.com kiwibox.com librarything.com lunarstorm.se
  mylife.com myheritage.com paper.li qzone.qq.com scuttlebutt.nz slideshare.net taringa.net tuenti.com weread.com
  wakoopa.com wattpad.com yammer.com zoo.gr`,
);
