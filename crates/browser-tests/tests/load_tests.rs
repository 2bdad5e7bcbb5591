//! Load and capacity tests as a technician makes them: by keyboard, on the phone, over a restart.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use browser_tests::{DESK, PHONE, Page, Shop};

/// The load tests of a visit that has just begun; the address of the visit.
async fn begin(page: &Page, bank: &str, press: &str, test: &str) -> String {
    page.go(bank).await;
    page.press(press).await;
    page.see("Make safe before anything is touched").await;
    let visit = page.path().await;
    page.go(&format!("{visit}?step=load_test&test={test}")).await;
    page.see("Surface charge burned off first").await;
    visit
}

#[tokio::test(flavor = "multi_thread")]
async fn four_batteries_are_loaded_by_keyboard_and_the_one_that_gives_way_is_named() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, DESK).await;
    page.wear("light").await;
    let visit = begin(&page, &shop.bank("Dipper").await, "Begin a visit", "short").await;
    page.press("Surface charge burned off first").await;
    page.press("The load is on").await;
    page.see("Load on for at least").await;
    shop.clock.pass(400);
    page.reload().await;
    page.see("Long enough: load off").await;
    page.press("Load off, everything off").await;
    page.see("Rests for").await;
    shop.clock.pass(1900);
    page.reload().await;
    page.see("Surface charge is off").await;
    page.fill("Seconds", "900").await;
    page.press("Load with this").await;
    page.faulty("Seconds").await;
    page.fill("Seconds", "15").await;
    page.fill("The tester", "carbon pile").await;
    page.press("Load with this").await;
    page.see("Set 50 A for 15 s.").await;
    page.press("Read it again after 30 s").await;
    for (battery, volts) in [("A1", "11.48"), ("A2", "11.46"), ("B1", "11.47"), ("B2", "10.60")] {
        page.headed(battery).await;
        page.until_value("Volts before", "").await;
        page.fill("Volts before", "12.80").await;
        page.enter().await;
        page.see(&format!("{battery} under load for")).await;
        if battery == "A1" {
            // a load never raises volts
            page.fill("At the end of the load", "13.1").await;
            page.enter().await;
            page.faulty("At the end of the load").await;
            assert_eq!(page.value("Volts before").await, "12.80", "nothing is lost");
            // the count goes on after a reload
            shop.clock.pass(20);
            page.reload().await;
            page.see("Load off. Read again in").await;
            page.fill("Volts before", "12.80").await;
            page.press("Read it again after 30 s").await;
        }
        page.fill("At the end of the load", volts).await;
        page.enter().await;
        page.see_in("Batteries under load", &format!("{battery}: {volts} V on 12 V")).await;
    }
    page.see("B2 falls further under load than it should").await;
    assert_eq!(page.axe(&[]).await, "");
    page.go(&format!("{visit}?step=close_up")).await;
    page.see("Close the visit").await;
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_discharge_on_the_phone_goes_on_over_a_restart_and_says_what_is_left() {
    let mut shop = Shop::with_demo().await;
    let page = Page::open(&shop, PHONE).await;
    page.wear("light").await;
    let visit = begin(&page, &shop.bank("Arboretum tram 4").await, "Visit", "discharge").await;
    page.see_in("Earlier discharges", "A5 gave out first").await;
    page.fill("Current, A", "56").await;
    page.fill("Ends at, V a cell", "2.2").await;
    page.fill("Electrolyte or case at the start", "20").await;
    page.press("The load is on: begin").await;
    page.faulty("Ends at, V a cell").await;
    assert_eq!(page.value("Electrolyte or case at the start").await, "20", "nothing is lost");
    page.fill("Ends at, V a cell", "1.75").await;
    page.fill("Minutes between readings", "5").await;
    page.press("Proven full before").await;
    page.press("The load is on: begin").await;
    page.see("On discharge").await;
    assert!(page.fits().await);
    shop.clock.pass(60);
    for (minutes, volts) in [(0u64, "48.50"), (29, "47.20")] {
        shop.clock.pass(i64::try_from(minutes * 60).unwrap());
        page.press("Enter a reading").await;
        page.fill("Volts of the bank", volts).await;
        page.fill("Amperes", "56").await;
        page.press("Keep this reading").await;
        page.see("left").await;
        page.until_count("button", "Keep this reading", 0).await;
    }
    // the server is gone and comes back: no minute is lost
    shop.kill();
    shop.restart().await;
    shop.clock.pass(30 * 60);
    page.reload().await;
    page.see("Reading overdue by").await;
    page.press("Enter a reading").await;
    page.fill("Volts of the bank", "48.9").await;
    page.press("Keep this reading").await;
    page.see("more than the 47.20 V of the last reading under the same load").await;
    page.fill("Volts of the bank", "44.80").await;
    for (battery, volts) in
        [("A1", "7.50"), ("A2", "7.51"), ("A3", "7.49"), ("A4", "7.50"), ("A5", "7.30"), ("A6", "7.50")]
    {
        page.fill(&format!("{battery}, V"), volts).await;
    }
    page.press("Keep this reading").await;
    page.see("A5 gives out first: 7.30 V, 0.20 under its mates").await;
    shop.clock.pass(10 * 60);
    page.press("Enter a reading").await;
    page.fill("Volts of the bank", "41.9").await;
    page.press("Keep this reading").await;
    page.see("The end voltage is reached: load off now, then press Stop.").await;
    assert_eq!(page.axe(&[]).await, "");
    // nobody leaves while the load is on
    page.go(&format!("{visit}?step=close_up")).await;
    page.press("Close the visit").await;
    page.press("Close all the same").await;
    page.see("A timed discharge of this visit is on").await;
    page.go(&format!("{visit}/discharge")).await;
    page.press("Stop").await;
    page.see("What the tests found").await;
    page.see("of its rated capacity").await;
    page.see("A5 gave out first").await;
    assert!(page.fits().await);
    assert_eq!(page.axe(&[]).await, "");
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn the_system_s_load_a_known_load_and_cells_are_typed_and_judged() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, DESK).await;
    page.wear("light").await;
    begin(&page, &shop.bank("Larch Point repeater").await, "Begin a visit", "real").await;
    page.press("The load is on").await;
    page.see("First reading in").await;
    shop.clock.pass(310);
    page.reload().await;
    page.see("Volts at 5 minutes, then load off.").await;
    page.fill("Before the load, settled", "25.40").await;
    page.fill("At 5 minutes", "25.60").await;
    page.fill("Current of the bank, A", "12").await;
    page.press("The loads with their plates").await;
    page.fill("Load 1", "heater").await;
    page.fill("It draws, A", "12").await;
    page.fill("Its plate says, A", "6").await;
    page.press("Keep this test").await;
    page.faulty("At 5 minutes").await;
    page.fill("At 5 minutes", "25.00").await;
    page.press("Keep this test").await;
    page.see_in("Real loads", "It holds as a sound bank does").await;
    page.see("Heater draws 2.0 times its plate").await;
    page.press("Known load").await;
    page.fill("The load", "relay alone").await;
    page.fill("Hours when new", "41").await;
    page.fill("Hours now", "forty").await;
    page.press("Keep these hours").await;
    page.faulty("Hours now").await;
    page.fill("Hours now", "40:30").await;
    page.press("Keep these hours").await;
    page.see_in("Known loads", "40 h 30 min now, 41 h when new, 99 %").await;
    page.press("Cell volts").await;
    page.choose("Read", "on float").await;
    page.fill("Volts of the cell", "0.4").await;
    page.press("Keep and go on").await;
    page.see("nothing a cell usually shows").await;
    page.press("Read it again").await;
    page.fill("Volts of the cell", "2.10").await;
    page.press("Keep and go on").await;
    page.see_in("Volts of cells", "2.10 V on float, 2.13 V is the least").await;
    page.see("shows too few volts on float").await;
    assert_eq!(page.axe(&[]).await, "");
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn strings_that_share_unevenly_are_typed_and_the_cheapest_change_is_named() {
    let shop = Shop::open().await;
    let page = Page::open(&shop, DESK).await;
    page.wear("light").await;
    page.go("/calculators?tool=parallel").await;
    page.see("The strings share A 54 %, B 46 %.").await;
    page.see_in("What would even it", "A 50 %, B 50 %, the cheapest").await;
    page.fill("Section of a link, mm²", "0").await;
    page.faulty("Section of a link, mm²").await;
    page.see("No answer until the marked figures are put right.").await;
    page.choose("Links are told in", "AWG").await;
    page.fill("Gauge of a link", "4/0").await;
    page.see("The strings share within 5 % of even").await;
    // a third string of its own resistance
    page.fill("String C, mΩ", "12").await;
    page.see("string C").await;
    page.see("the strings themselves differ").await;
    assert_eq!(page.axe(&[]).await, "");
    page.close().await;
}
