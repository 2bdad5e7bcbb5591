//! What stands at a bank, told by a technician and seen by whoever goes there next.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use browser_tests::{DESK, Page, Shop};

#[tokio::test(flavor = "multi_thread")]
async fn what_stands_there_is_typed_judged_and_seen_on_the_next_visit() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, DESK).await;
    page.wear("light").await;
    let bank = shop.bank("Larch Point repeater").await;
    page.go(&format!("{bank}/equipment")).await;
    page.press("Tell what stands there").await;
    page.choose("What it is", "shore charger").await;
    page.fill("Absorption, V", "14.4").await;
    page.fill("A fan moves", "6").await;
    page.fill("Air leaves high by", "20").await;
    page.press("Add a switch, fuse or balancer").await;
    page.fill("Where, and what it serves", "behind the door").await;
    page.press("where people live or sleep").await;
    page.fill("A bolt, bracket or rail", "rack bolt beside A3").await;
    page.fill("Your own numbers", "21, 22, 22").await;
    page.fill("Cable 1 from", "A1 +").await;
    page.press("Keep").await;
    // a bank of another voltage, one number twice, a cable with one end: all named, nothing lost
    page.faulty("Absorption, V").await;
    page.faulty("Your own numbers").await;
    page.faulty("to").await;
    assert_eq!(page.value("Where, and what it serves").await, "behind the door");
    page.fill("Absorption, V", "28.8").await;
    page.fill("Your own numbers", "21, 22, 23").await;
    page.fill("to", "string fuse").await;
    assert_eq!(page.axe(&[]).await, "");
    page.press("Keep").await;
    // VE-1: 12 cells, 300 Ah, boost 20 mA/Ah: 3.6 m³/h; the fan moves more
    page.see("The air that is told is enough: a boost charge asks for 3.6 m³ an hour").await;
    page.see("Switch: behind the door").await;
    page.see("A1 + to string fuse").await;
    page.go(&bank).await;
    page.press("Begin a visit").await;
    page.see_in("Access notes", "Could hole a case: rack bolt beside A3.").await;
    page.see_in("Access notes", "Nobody sleeps beside an equalize.").await;
    page.press("Own numbers and cables").await;
    page.see_in("Access notes", "A1 is 21").await;
    page.close().await;
}
