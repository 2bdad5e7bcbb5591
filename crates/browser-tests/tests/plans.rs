//! Planning in the browser: each planner, its bad input, keeping, comparing, reading a file, the calendar.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use browser_tests::{DESK, PHONE, Page, Shop};

#[tokio::test(flavor = "multi_thread")]
async fn the_winter_of_the_hut_is_planned_compared_and_put_into_the_calendar() {
    let shop = Shop::with_demo().await;
    let hut = shop.bank("High Pasture hut").await;
    let page = Page::open(&shop, DESK).await;
    page.wear("light").await;
    page.go(&format!("{hut}/plan?planner=storage")).await;
    page.see("short of freezing").await;
    page.see("coldest to expect").await;
    assert_eq!(page.axe(&[]).await, "");
    page.fill("Left at, % of charge", "130").await;
    page.see("130 is not possible here; accepted is 0 to 100 %").await;
    page.fill("Left at, % of charge", "100").await;
    page.press("Keep this plan").await;
    page.fill("Name of the plan", "as it is").await;
    page.press_in("Keep this plan", "Keep this plan").await;
    page.see("\u{201c}as it is\u{201d} is kept.").await;
    page.fill("Left at, % of charge", "60").await;
    page.see("It is down to 75 % on 19 October").await;
    page.press("Keep this plan").await;
    page.fill("Name of the plan", "left half full").await;
    page.press_in("Keep this plan", "Keep this plan").await;
    page.see_in("Kept plans", "left half full").await;
    page.press("Compare as it is").await;
    page.press("Compare left half full").await;
    page.press("Compare the two ticked").await;
    page.see_in("What is set otherwise", "Left at").await;
    page.keys("\u{e00c}").await;
    page.press("Put these days into the calendar").await;
    page.see("days stand in what is due").await;
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn hours_charging_replacement_and_size_answer_to_what_is_moved() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, DESK).await;
    let relay = shop.bank("Larch Point repeater").await;
    page.go(&format!("{relay}/plan?planner=runtime")).await;
    page.see("to the alarm").await;
    page.see("The proof of").await;
    page.press("What ends it").await;
    page.fill("Wanted, h", "72").await;
    page.see("72 h are wanted").await;
    page.fill("Load", "0").await;
    page.see("othing draws").await;
    page.see("No answer until the marked figures are put right").await;
    page.fill("Load", "2").await;
    page.see("are wanted, so it is enough").await;
    let coach = shop.bank("Marginalia").await;
    page.go(&format!("{coach}/plan?planner=charging")).await;
    page.see("It runs empty").await;
    page.press("Engine").await;
    // It begins with the engine that its record shows.
    page.see("record: 20 min a day").await;
    page.fill("Alternator, A", "130").await;
    page.fill("Runs, h a day", "2").await;
    page.see("No source finishes the charge: it is never full.").await;
    let dome = shop.bank("Kestrel Dome").await;
    page.go(&format!("{dome}/plan?planner=replacement")).await;
    page.see("New B5").await;
    page.see("The bank is older than the house lets a new battery into").await;
    page.fill("The bank is, months", "6").await;
    page.see("Put a new battery in B5\u{2019}s place").await;
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_bank_from_nothing_is_sized_and_described_and_a_plan_comes_from_a_file() {
    let shop = Shop::open().await;
    let page = Page::open(&shop, PHONE).await;
    page.go("/calculators?tool=plan-size").await;
    page.see("Ah are needed").await;
    assert!(page.fits().await);
    page.press("Describe this bank").await;
    page.see("2 strings of 12 two-volt batteries").await;
    page.close().await;
    let page = Page::open(&shop, DESK).await;
    page.go("/calculators?tool=plan-size").await;
    page.see("Ah are needed").await;
    let folder = tempfile::tempdir().unwrap();
    let file = folder.path().join("plan.csv");
    let text = "part,what,value\nplan,planner,runtime\nplan,name,pump\nset,system_voltage,12\nset,amount,7.5\nset,model,flooded-12v-80\n";
    std::fs::write(&file, text).unwrap();
    page.upload(file.to_str().unwrap()).await;
    page.see("mean current 7.50 A").await;
    page.close().await;
}
