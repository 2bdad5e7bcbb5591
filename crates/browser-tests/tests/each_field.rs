//! Every form with each of its fields wrong by turn: the message stands at that field, and nothing else that
//! was typed is lost.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use browser_tests::{DESK, PHONE, Page, Shop};

/// A field by its label, and what cannot be in it.
type Wrong<'a> = (&'static str, &'a str);

/// Fills each field wrongly by turn and sends the form; at the end every field holds what it held before.
async fn each(page: &Page, press: &str, fields: &[Wrong<'_>]) {
    for (label, wrong) in fields {
        let mut others = Vec::new();
        for (other, _) in fields.iter().filter(|(other, _)| other != label) {
            others.push((*other, page.value(other).await));
        }
        let right = page.value(label).await;
        page.fill(label, wrong).await;
        page.press(press).await;
        page.faulty(label).await;
        for (other, held) in others {
            assert_eq!(page.value(other).await, held, "{other} is as it was, beside a wrong {label}");
        }
        page.fill(label, &right).await;
    }
}

async fn demo(size: (u32, u32)) -> (Shop, Page) {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, size).await;
    page.wear("light").await;
    (shop, page)
}

#[tokio::test(flavor = "multi_thread")]
async fn of_a_bank_that_is_described() {
    let shop = Shop::open().await;
    let page = Page::open(&shop, PHONE).await;
    page.wear("light").await;
    page.go("/banks/new").await;
    page.fill("Site", "Larch Point repeater").await;
    page.see("48 cells").await;
    let fields = [
        ("Site", " "),
        ("System voltage, V", "fifty"),
        ("Batteries in series", "7"),
        ("Rows in a string", "9"),
        ("Tiers, shelves", "9"),
        ("In service since", "last year"),
        ("In use from", "whenever"),
        ("In use until", "31/2"),
    ];
    each(&page, "Put this bank on the page", &fields).await;
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn of_a_bank_that_is_put_right() {
    let (shop, page) = demo(DESK).await;
    page.go(&format!("{}/edit", shop.bank("Kestrel Dome").await)).await;
    page.until_value("Site", "Kestrel Dome").await;
    let fields = [
        ("Site", " "),
        ("Wet season begins", "31/2"),
        ("First hard frost", "soon"),
        ("Rows in a string", "9"),
        ("In service since", "2031"),
    ];
    each(&page, "Keep it so", &fields).await;
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn of_a_battery_model_and_of_a_set_of_house_rules() {
    let (_shop, page) = demo(DESK).await;
    page.go("/library").await;
    page.press_in("Battery models", "Copy").await;
    page.fill("Name on the case", "Flooded 6 V 420 Ah, mine").await;
    page.fill("Source of the figures", "the maker's sheet").await;
    let fields = [
        ("Name on the case", " "),
        ("Cells in one case", "x"),
        ("C20, Ah", "-4"),
        ("Full gravity", "12"),
        ("Discharged gravity", "2"),
        ("Reference temperature", "900"),
        ("Absorption, V a cell", "99"),
        ("Float, V a cell", "99"),
        ("Equalize, V a cell", "99"),
        ("Maker’s spread limit, points", "many"),
        ("Acid in one cell", "-1"),
        ("Fill mark above the plates", "-1"),
        ("Free area over the plates", "wide"),
        ("Charge table", "100"),
        ("Rate table", "20"),
    ];
    each(&page, "Keep this model", &fields).await;
    page.reload().await;
    page.press("Copy Light touch").await;
    page.fill("Name of the set", "Ours").await;
    let fields = [
        ("Name of the set", " "),
        ("Spread: watch", "many"),
        ("Spread: equalize", "-3"),
        ("Cell below its mates: suspect", "x"),
    ];
    each(&page, "Keep this set", &fields).await;
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn of_what_charges_a_bank_and_of_a_reading_of_a_run() {
    let (shop, page) = demo(DESK).await;
    page.go(&format!("{}/equalize", shop.bank("Kestrel Dome").await)).await;
    page.press("Charger and loads").await;
    let fields = [
        ("Absorption, V", "990"),
        ("Float, V", "x"),
        ("Equalize, V", "990"),
        ("Current for the bank, A", "-1"),
        ("Sun enough from", "25:00"),
        ("Sun enough until", "noonish"),
        ("Dark at", "25:00"),
        ("Air around the bank", "-2"),
        ("A fan moves", "x"),
        ("Your own numbers", "1, 1"),
        ("Load 1", " "),
        ("Takes up to, V", "x"),
        ("Address on your network", "not an address"),
    ];
    // what charges it stands otherwise than before: whether that was changed there is asked first
    page.fill("Absorption, V", "990").await;
    page.press("it stood here wrong, or was not told").await;
    each(&page, "Keep", &fields).await;
    page.reload().await;
    page.fill("Typed into the charger", "62.8").await;
    page.press("Prepare the run").await;
    page.see("See to these before").await;
    page.press("Enter a reading").await;
    let fields = [
        ("B5-2, pilot, gravity as read", "12.6"),
        ("Hottest electrolyte", "900"),
        ("Bank, V", "6"),
        ("Bank, A", "some"),
    ];
    each(&page, "Keep the reading", &fields).await;
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn of_the_conditions_of_a_round_and_of_the_steps_of_a_visit() {
    let (shop, page) = demo(PHONE).await;
    let path = shop.bank("Arboretum tram 4").await;
    page.go(&format!("{path}/round")).await;
    let fields = [
        ("Hours since charge", "soon"),
        ("Hours since a heavy load", "soon"),
        ("Volts of the whole bank", "x"),
        ("Electrolyte", "900"),
    ];
    each(&page, "Begin the round", &fields).await;
    page.go(&path).await;
    page.press("Begin a visit").await;
    page.see("Make safe before anything is touched").await;
    let visit = page.path().await;
    page.go(&format!("{visit}?step=rest_check")).await;
    let fields = [("Hours since charge", "soon"), ("Hours since load", "-1"), ("Cases", "900")];
    each(&page, "Note it", &fields).await;
    each(&page, "Keep and go on", &[("Volts at its posts", "63.5")]).await;
    page.go(&format!("{visit}?step=water")).await;
    each(&page, "Note the water", &[("Amount", "much")]).await;
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn of_the_calculators_reminders_changes_of_batteries_and_oneself() {
    let (shop, page) = demo(DESK).await;
    page.go("/calculators").await;
    for (label, wrong) in [
        ("Cells in series", "x"),
        ("Batteries at", "900"),
        ("Absorption, V", "990"),
        ("Float, V", "990"),
        ("Equalize, V", "990"),
    ] {
        let right = page.value(label).await;
        page.fill(label, wrong).await;
        page.faulty(label).await;
        page.fill(label, &right).await;
    }
    page.go("/calculators?tool=air").await;
    for (label, wrong) in [
        ("Cells in series", "0"),
        ("Capacity of the whole bank", "x"),
        ("Actual current", "-1"),
        ("Air around it", "x"),
    ] {
        let right = page.value(label).await;
        page.fill(label, wrong).await;
        page.faulty(label).await;
        page.fill(label, &right).await;
    }
    page.go("/today").await;
    page.press("Add a reminder").await;
    page.fill("What", "bring the spare fuse").await;
    each(&page, "Keep the reminder", &[("What", " "), ("Day", "31/2")]).await;
    page.press("Cancel").await;
    page.press("Put off").await;
    page.fill("Put off until", "2026-12-01").await;
    page.fill("Why", "the path is closed").await;
    each(&page, "Put it off", &[("Put off until", "31/2"), ("Why", " ")]).await;
    page.go(&format!("{}/batteries?change", shop.bank("Kestrel Dome").await)).await;
    each(&page, "Keep the change", &[("Day", "31/2")]).await;
    page.go(&shop.bank("Kestrel Dome").await).await;
    page.press("Begin a visit").await;
    page.press("Change on access").await;
    let long = "wide ".repeat(1100);
    each(&page, "Keep the notes", &[("Cover", &long), ("Wish I had known", &long)]).await;
    page.go("/settings").await;
    page.fill("Initials", "1?").await;
    page.keys("\u{e004}").await;
    page.faulty("Initials").await;
    page.close().await;
}

/// Goes through a page with Tab alone: every field and every button of its forms is reached, shows that it has
/// the focus, and none holds it.
async fn reached(page: &Page, form: &str) {
    let wanted = "const form = [...document.querySelectorAll('form')].filter(f => f.checkVisibility() && f.querySelector('input, textarea')); \
        return form.flatMap(f => [...f.querySelectorAll('input, textarea, button')]) \
            .filter(e => e.checkVisibility({ visibilityProperty: true }) && !e.disabled && e.tabIndex >= 0 && e.type !== 'file')";
    page.script(&format!(
        "window.left = new Set((() => {{ {wanted} }})()); window.dull = []; window.radios = new Set(); document.activeElement.blur(); scrollTo(0, 0)"
    ))
    .await;
    let before = page.script("return left.size").await.as_u64().unwrap();
    assert!(before > 0, "{form} has fields");
    for _ in 0..400 {
        page.keys("\t").await;
        let done = page
            .script(
                "const e = document.activeElement; left.delete(e); \
                 if (e.type === 'radio') [...left].filter(o => o.type === 'radio' && o.name === e.name).forEach(o => left.delete(o)); \
                 const look = n => { const s = getComputedStyle(n); return s.outlineStyle !== 'none' || s.boxShadow !== 'none' || (n instanceof SVGElement && s.stroke !== 'none') }; \
                 const near = [e, e.parentElement, e.parentElement?.parentElement, e.nextElementSibling, e.closest('label')]; \
                 if (e !== document.body && !near.some(n => n && look(n)) && !/picker|ant-select|ant-input-number|ant-checkbox|ant-radio/.test(e.closest('[class*=ant-]')?.className ?? '')) dull.push(e.ariaLabel ?? e.textContent.trim()); \
                 return left.size === 0",
            )
            .await;
        if done == serde_json::Value::Bool(true) {
            break;
        }
    }
    let left = page
        .script("return [...left].map(e => e.ariaLabel ?? e.labels?.[0]?.textContent ?? e.textContent).map(t => t.trim())")
        .await;
    assert_eq!(left, serde_json::json!([]), "{form}: not reached with Tab");
    let dull = page.script("return [...new Set(dull)]").await;
    assert_eq!(dull, serde_json::json!([]), "{form}: focus is not seen");
}

#[tokio::test(flavor = "multi_thread")]
async fn every_field_of_every_form_is_reached_with_tab_and_shows_that_it_is() {
    let (shop, page) = demo(DESK).await;
    let path = shop.bank("Kestrel Dome").await;
    page.go("/banks/new").await;
    page.see("48 cells").await;
    reached(&page, "a new bank").await;
    page.go(&format!("{path}/edit")).await;
    page.until_value("Site", "Kestrel Dome").await;
    reached(&page, "a bank put right").await;
    page.go("/library").await;
    page.press_in("Battery models", "Copy").await;
    page.see("Name on the case").await;
    reached(&page, "a battery model").await;
    page.reload().await;
    page.press("Copy Light touch").await;
    page.see("Name of the set").await;
    reached(&page, "a set of house rules").await;
    page.go("/today").await;
    page.press("Add a reminder").await;
    page.see("Keep the reminder").await;
    reached(&page, "a reminder").await;
    page.go(&format!("{path}/batteries?change")).await;
    page.see("Keep the change").await;
    reached(&page, "a change of batteries").await;
    page.go(&format!("{path}/equalize")).await;
    page.press("Charger and loads").await;
    page.see("Sun enough from").await;
    reached(&page, "what charges a bank").await;
    page.go(&format!("{path}/round")).await;
    page.see("Before the first cell").await;
    reached(&page, "the conditions of a round").await;
    page.go(&path).await;
    page.press("Begin a visit").await;
    page.see("Make safe before anything is touched").await;
    let visit = page.path().await;
    for (step, form) in
        [("rest_check", "Note it"), ("water", "Note the water"), ("close_up", "Keep the note")]
    {
        page.go(&format!("{visit}?step={step}")).await;
        page.see(form).await;
        reached(&page, form).await;
    }
    page.close().await;
}
