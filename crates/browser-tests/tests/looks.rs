//! Every view in both themes: axe finds nothing, nothing is wider than the page.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use browser_tests::{DESK, PHONE, Page, Shop};

async fn views(shop: &Shop) -> Vec<String> {
    let banks = shop.get("/api/banks").await;
    let kestrel = banks[3]["id"].as_str().unwrap().to_owned();
    let page = shop.get(&format!("/api/banks/{kestrel}")).await;
    let round = page["round"].as_str().unwrap().to_owned();
    let visit = page["visits"][0]["id"].as_str().unwrap().to_owned();
    vec![
        "/today".into(),
        "/pair".into(),
        "/banks".into(),
        "/banks/new".into(),
        format!("/banks/{kestrel}?cell=B5-2"),
        format!("/banks/{kestrel}/history"),
        format!("/banks/{kestrel}/charger"),
        format!("/banks/{kestrel}/batteries?change"),
        format!("/banks/{kestrel}/equalize"),
        format!("/banks/{kestrel}/edit"),
        format!("/banks/{kestrel}/round"),
        format!("/banks/{kestrel}/notebook"),
        format!("/rounds/{round}"),
        format!("/visits/{visit}"),
        format!("/visits/{visit}?step=look_over"),
        format!("/visits/{visit}?step=rest_check"),
        format!("/visits/{visit}?step=water"),
        "/library".into(),
        "/settings".into(),
        "/calculators".into(),
        "/calculators?tool=air".into(),
        "/nowhere".into(),
        "/banks/018f0000-0000-7000-8000-00000000dead".into(),
    ]
}

/// Faults of the component library itself: what lies over a page is appended to its body, outside of every
/// landmark, and the lines that are seen of an open list say that they are chosen without being options (those that
/// are heard stand beside them).
const OF_THE_LIBRARY: [&str; 2] = ["region", "aria-allowed-attr"];

/// What axe and the width of the page have against the state on screen.
async fn faults(page: &Page, state: &str, size: (u32, u32)) -> Vec<String> {
    faults_but(page, state, size, &[]).await
}

/// What is left of it without some rules.
async fn faults_but(page: &Page, state: &str, size: (u32, u32), except: &[&str]) -> Vec<String> {
    let found = page.axe(except).await;
    let mut faults = Vec::new();
    if !found.is_empty() {
        faults.push(format!("{state}:\n{found}"));
    }
    if !page.fits().await {
        faults.push(format!("{state} is wider than {size:?}"));
    }
    faults
}

async fn look(theme: &str, size: (u32, u32)) {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, size).await;
    page.wear(theme).await;
    let mut all = Vec::new();
    for path in views(&shop).await {
        page.go(&path).await;
        page.until(
            "the view is there",
            "return !!document.querySelector('h1, .failure') && !document.querySelector('.loading')",
        )
        .await;
        all.extend(faults(&page, &path, size).await);
    }
    assert!(all.is_empty(), "{}", all.join("\n"));
    page.close().await;
}

/// The states a technician meets inside the views: a question, no reading, a form with faults, a
/// checked notebook, an empty application, a server that is gone.
async fn states(theme: &str) {
    let mut shop = Shop::open().await;
    let page = Page::open(&shop, DESK).await;
    page.wear(theme).await;
    let mut all = Vec::new();
    page.see("No bank yet").await;
    all.extend(faults(&page, "first run", DESK).await);
    page.press("Look at the demo").await;
    page.see("Kestrel Dome").await;
    let bank = shop.get("/api/banks").await[3]["id"].as_str().unwrap().to_owned();

    page.go(&format!("/banks/{bank}/round")).await;
    page.fill("Electrolyte", "soon").await;
    page.press("Begin the round").await;
    page.see("“soon” is not a number").await;
    all.extend(faults(&page, "an opening with a fault", DESK).await);
    page.fill("Electrolyte", "16").await;
    page.press("Begin the round").await;
    page.read("A1-1", "269").await;
    page.read("A1-2", "269").await;
    page.read("A1-3", "269").await;
    page.read("A2-1", "219").await;
    page.see("Re-read this cell?").await;
    all.extend(faults(&page, "a question", DESK).await);
    page.keys("n").await;
    page.see("Why there is no reading at A2-1").await;
    all.extend(faults(&page, "no reading", DESK).await);
    page.press("Conditions").await;
    page.see("Conditions of this round").await;
    all.extend(faults_but(&page, "conditions of a round", DESK, &OF_THE_LIBRARY).await);

    page.go(&format!("/banks/{bank}/notebook")).await;
    page.press("A CSV file").await;
    page.fill("Or paste the table here", "cell,2020-01-05\nA1-1,265\nA1-2,12.65\nA1-3,1340\n").await;
    page.press("Check").await;
    page.see("1 entry refused, 1 to look at again").await;
    all.extend(faults(&page, "a checked notebook", DESK).await);

    page.go("/library").await;
    page.press("Copy Flooded 6 V 420 Ah, tall case").await;
    page.fill("C20, Ah", "plenty").await;
    page.press("Keep this model").await;
    page.see("“plenty” is not a number").await;
    all.extend(faults(&page, "a model with a fault", DESK).await);
    page.press("?").await;
    page.see("Single-key").await;
    all.extend(faults(&page, "the keys", DESK).await);

    page.go(&format!("/banks/{bank}")).await;
    page.press("Begin a visit").await;
    page.see("Make safe before anything is touched").await;
    all.extend(faults(&page, "a visit begun", DESK).await);
    page.press("Look over").await;
    page.press("Terminals: found something").await;
    page.press_in("What was found", "white powder").await;
    all.extend(faults(&page, "a finding being noted", DESK).await);
    page.press("Water").await;
    page.fill("Amount", "400").await;
    page.press("Note the water").await;
    page.see("can hold in all").await;
    all.extend(faults(&page, "water refused", DESK).await);
    page.go("/today").await;
    page.press("Put off: ").await;
    page.press("Add a reminder").await;
    page.see("What").await;
    all.extend(faults(&page, "putting off and a reminder", DESK).await);

    page.go("/banks").await;
    page.see("Kestrel Dome").await;
    shop.kill();
    page.press("Kestrel Dome").await;
    page.see("The server does not answer").await;
    all.extend(faults(&page, "no server", DESK).await);
    assert!(all.is_empty(), "{}", all.join("\n"));
    page.close().await;
}

/// What lies over a page, open: a menu, a drawer, a list, a calendar, a dialog, a message.
async fn overlays(theme: &str, size: (u32, u32)) {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, size).await;
    page.wear(theme).await;
    let banks = shop.get("/api/banks").await;
    let bank = format!("/banks/{}", banks[3]["id"].as_str().unwrap());
    let mut all = Vec::new();
    page.go(&bank).await;
    page.press("More").await;
    page.see("Put the description right").await;
    page.focused("Volts alone").await;
    all.extend(faults_but(&page, "the menu", size, &OF_THE_LIBRARY).await);
    page.press("Choices of its own").await;
    page.within("drawer").await;
    all.extend(faults_but(&page, "a drawer", size, &OF_THE_LIBRARY).await);
    page.go(&format!("{bank}/batteries?change")).await;
    page.focus("What happened").await;
    page.keys("\u{e015}").await;
    page.until("the list is open", "return document.activeElement.ariaExpanded === 'true'").await;
    all.extend(faults_but(&page, "a list", size, &OF_THE_LIBRARY).await);
    page.keys("\u{e00c}").await;
    page.focus("Pick: Day").await;
    page.keys("\u{e007}").await;
    page.until_count("gridcell", "2026-10-15", 1).await;
    all.extend(faults_but(&page, "a calendar", size, &OF_THE_LIBRARY).await);
    page.go("/banks").await;
    page.press("Pick several").await;
    page.press("Pick Dipper").await;
    page.press("Archive them").await;
    page.see("One bank is archived.").await;
    all.extend(faults_but(&page, "a message", size, &OF_THE_LIBRARY).await);
    assert!(all.is_empty(), "{}", all.join("\n"));
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn axe_finds_nothing_in_what_lies_over_a_page_by_day() {
    overlays("light", DESK).await;
}

#[tokio::test(flavor = "multi_thread")]
async fn axe_finds_nothing_in_what_lies_over_a_page_in_the_shed_on_the_phone() {
    overlays("shed", PHONE).await;
}

#[tokio::test(flavor = "multi_thread")]
async fn axe_finds_nothing_in_the_states_by_day() {
    states("light").await;
}

#[tokio::test(flavor = "multi_thread")]
async fn axe_finds_nothing_in_the_states_in_the_shed() {
    states("shed").await;
}

#[tokio::test(flavor = "multi_thread")]
async fn axe_finds_nothing_on_the_desk_by_day() {
    look("light", DESK).await;
}

#[tokio::test(flavor = "multi_thread")]
async fn axe_finds_nothing_on_the_desk_in_the_shed() {
    look("shed", DESK).await;
}

#[tokio::test(flavor = "multi_thread")]
async fn axe_finds_nothing_on_the_phone() {
    look("light", PHONE).await;
}

#[tokio::test(flavor = "multi_thread")]
async fn no_request_leaves_the_machine_and_units_are_remembered() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, DESK).await;
    page.press("Kestrel Dome").await;
    page.see("14.5 °C").await;
    page.go("/settings").await;
    page.choose("Temperature", "°F").await;
    page.see("Saved.").await;
    page.go("/banks").await;
    page.press("Kestrel Dome").await;
    page.see("58.1 °F").await;
    page.see("corrected to 77 °F").await;
    let elsewhere = page
        .script("return performance.getEntriesByType('resource').map(r => r.name).filter(n => !n.startsWith(location.origin))")
        .await;
    assert_eq!(elsewhere.as_array().map(Vec::len), Some(0), "{elsewhere}");
    page.close().await;
}
