//! Joints and strings as a technician measures them: cables told once, a round by keyboard, a bad joint remade, on the phone.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use browser_tests::{DESK, PHONE, Page, Shop};

/// The joints of a bank along its strings: post after post, then the leads where they are.
const POSTS: [&str; 8] = ["A1+", "A1\u{2212}", "A2+", "A2\u{2212}", "B1+", "B1\u{2212}", "B2+", "B2\u{2212}"];

#[tokio::test(flavor = "multi_thread")]
async fn a_round_of_joints_by_keyboard_names_the_bad_one_and_it_is_remade() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, DESK).await;
    page.wear("light").await;
    let bank = shop.bank("Dipper").await;
    page.go(&format!("{bank}/joints")).await;
    page.see("the strings then share").await;
    page.see("clamp agrees within").await;
    page.see_in("What would even it", "Remake B1+").await;
    assert_eq!(page.axe(&[]).await, "");
    page.keys("j").await;
    page.see("Make safe before anything is touched").await;
    let visit = page.path().await;
    page.go(&format!("{visit}?step=joints")).await;
    page.see("Clamp every string").await;
    // a clamp the wrong way round is asked about, and nothing is lost
    page.fill("String A, A", "33.0").await;
    page.fill("String B, A", "-27.4").await;
    page.press("Keep the currents").await;
    page.see("runs against the other strings").await;
    page.press("Clamp it again").await;
    page.fill("String B, A", "27.4").await;
    page.press("Keep the currents").await;
    page.see_in("Currents of the strings", "27.4").await;
    page.fill("Current of the bank, A", "0").await;
    page.fill("A1+ lead, mV", "3.3").await;
    page.enter().await;
    page.faulty("Current of the bank, A").await;
    assert_eq!(page.value("A1+ lead, mV").await, "3.3", "nothing is lost");
    page.fill("Current of the bank, A", "60.4").await;
    page.focus("A1+ lead, mV").await;
    page.enter().await;
    for post in POSTS {
        let label = format!("{post}, mV");
        page.until_value(&label, "").await;
        let millivolts = if post == "B1+" { "17.0" } else { "3.6" };
        if post == "B1+" {
            page.fill(&label, "402").await;
            page.enter().await;
            page.see("Did both probes stand on this joint").await;
            page.press("Read it again").await;
        }
        page.fill(&label, millivolts).await;
        page.enter().await;
        if post == "A2\u{2212}" {
            page.fill("A2\u{2212} lead, mV", "3.3").await;
            page.enter().await;
        }
    }
    page.see("10 of 10 read on this visit").await;
    page.see("Remake B1+").await;
    page.press("What is written down").await;
    page.see_in("Joints read on this visit", "B1+: 0.62 m\u{3a9}").await;
    page.choose("Set to torque", "Joints of B1").await;
    page.fill("Torque, N", "900").await;
    page.press("Keep the torque").await;
    page.faulty("Torque, N").await;
    page.fill("Torque, N", "9").await;
    page.press("taken apart, cleaned, made anew").await;
    page.press("Keep the torque").await;
    page.see_in("Torque log", "B1 remade, 9 N").await;
    page.see("remade; measure it again").await;
    page.choose("Joint", "B1+").await;
    page.fill("B1+, mV", "3.4").await;
    page.enter().await;
    // its other post was taken apart too, and nobody measured it since
    page.see("remade; measure it again").await;
    page.until_value("B1\u{2212}, mV", "").await;
    page.fill("B1\u{2212}, mV", "3.4").await;
    page.enter().await;
    page.see("No joint asks for anything").await;
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn cables_are_told_on_the_phone_and_the_currents_are_drawn_from_them() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, PHONE).await;
    page.wear("light").await;
    page.go(&format!("{}/joints", shop.bank("High Pasture hut").await)).await;
    page.see("nobody has told how it is wired").await;
    page.see("How the strings come together is not told").await;
    page.press("Tell how it is wired").await;
    page.fill("Link, mm", "50").await;
    page.fill("Link, length, m", "1000").await;
    page.press("by cables from string to string").await;
    page.fill("Plus, mm", "50").await;
    page.fill("Plus, length, m", "0.9").await;
    page.fill("Minus, mm", "50").await;
    page.fill("Minus, length, m", "0.9").await;
    page.choose("Minus comes off at string", "B").await;
    page.press("Keep").await;
    page.faulty("Link, length, m").await;
    assert_eq!(page.value("Plus, mm").await, "50", "nothing is lost");
    page.fill("Link, length, m", "0.3").await;
    page.press("Keep").await;
    page.see("As it is wired the strings share within 5 % of even").await;
    page.see("Links from battery to battery: 0.30 m, 50 mm").await;
    assert!(page.fits().await);
    assert_eq!(page.axe(&[]).await, "");
    page.close().await;
}
