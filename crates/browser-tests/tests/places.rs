//! The places of the application: their addresses, their keys, on paper, in the light of the device.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use browser_tests::{DESK, PHONE, Page, Shop};

/// Whether what bears a role and a name can be seen.
async fn seen(page: &Page, role: &str, name: &str) -> bool {
    page.names(role, "").await.iter().any(|n| n.starts_with(name)) && page.shown(role, name).await
}

#[tokio::test(flavor = "multi_thread")]
async fn every_part_of_a_bank_has_its_address_and_old_addresses_lead_on() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, DESK).await;
    page.wear("light").await;
    let bank = shop.bank("Kestrel Dome").await;
    page.go(&bank).await;
    for (tab, address, says) in [
        ("History", "/history", "Rounds of this bank"),
        ("Equipment", "/equipment", "Absorption"),
        ("Batteries", "/batteries", "Batteries and their replacements"),
        ("Now", "", "Findings"),
    ] {
        page.press_in("Of this bank", tab).await;
        page.until(
            &format!("{tab} has its address"),
            &format!("return location.pathname === '{bank}{address}'"),
        )
        .await;
        let there = format!("return !!document.querySelector('main')?.innerHTML.includes('{says}')");
        page.until(&format!("{tab} says {says}"), &there).await;
        // an address is as good as a press
        page.reload().await;
        page.until(&format!("{tab} again"), &there).await;
    }
    for (old, new) in [("/shelf", "/library"), ("/bench?tool=air", "/calculators"), ("/", "/today")] {
        page.go(old).await;
        page.until(&format!("{old} leads to {new}"), &format!("return location.pathname === '{new}'")).await;
    }
    page.go("/bench?tool=air").await;
    page.see("Air around it").await;
    // what is nowhere says so, and leads on
    page.go("/nowhere-at-all").await;
    page.until_count("heading", "There is nothing", 1).await;
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn keys_are_listed_by_place_and_act_only_where_nobody_types() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, DESK).await;
    page.wear("light").await;
    let bank = shop.bank("Kestrel Dome").await;
    for path in ["/today", "/banks", "/library", "/settings", "/calculators", bank.as_str()] {
        page.go(path).await;
        page.until("the page is there", "return !!document.querySelector('h1')").await;
        page.keys("?").await;
        page.within("dialog").await;
        page.see_in("A round", "no reading here").await;
        page.see_in("A bank", "begin or go on with a visit").await;
        page.keys("\u{e00c}").await;
        page.gone("dialog").await;
    }
    // in a field a key is a letter: R does not leave for a round, ? opens nothing
    page.go("/banks").await;
    page.focus("Find a site").await;
    page.keys("r?").await;
    page.until_value("Find a site", "r?").await;
    assert_eq!(page.path().await, "/banks");
    page.gone("dialog").await;
    // a lens by its key
    page.go(&bank).await;
    page.see("Findings").await;
    page.keys("2").await;
    page.see_in("Level from above", "A1").await;
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn on_paper_a_page_is_without_its_buttons() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, DESK).await;
    page.wear("light").await;
    page.go("/today").await;
    page.see("Load the van").await;
    assert!(seen(&page, "button", "Put off: ").await && seen(&page, "link", "Banks").await);
    page.on_paper(true).await;
    assert!(!seen(&page, "button", "Put off: ").await, "nothing is put off on paper");
    assert!(!seen(&page, "link", "Banks").await, "the places stay on the screen");
    assert!(seen(&page, "heading", "Load the van").await && seen(&page, "heading", "Harm if left").await);
    page.on_paper(false).await;
    page.go(&shop.bank("Kestrel Dome").await).await;
    page.see("Findings").await;
    page.on_paper(true).await;
    assert!(!seen(&page, "button", "Begin a visit").await && seen(&page, "heading", "Findings").await);
    page.on_paper(false).await;
    page.go("/library").await;
    page.rows("Battery models").await;
    page.on_paper(true).await;
    assert!(!seen(&page, "button", "Copy").await && seen(&page, "heading", "Battery models").await);
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn the_light_is_that_of_the_device_until_one_is_chosen() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, PHONE).await;
    let is = async |theme: &str| {
        page.until(theme, &format!("return document.documentElement.dataset.theme === '{theme}'")).await;
    };
    page.in_the_dark(true).await;
    is("shed").await;
    page.in_the_dark(false).await;
    is("light").await;
    page.go("/settings").await;
    page.choose("Light", "shed light").await;
    is("shed").await;
    page.in_the_dark(true).await;
    page.in_the_dark(false).await;
    page.reload().await;
    is("shed").await;
    page.choose("Light", "as this device").await;
    is("light").await;
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_page_that_breaks_says_so_and_keeps_what_was_typed() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, DESK).await;
    page.wear("light").await;
    page.go("/banks/new").await;
    page.fill("Site", "Larch Point repeater").await;
    page.see("48 cells").await;
    page.script("dispatchEvent(new ErrorEvent('error', { error: new Error('a fault of the page') }))").await;
    page.see("a fault of the page").await;
    page.press("Load the page anew").await;
    page.until_value("Site", "Larch Point repeater").await;
    page.close().await;
}
