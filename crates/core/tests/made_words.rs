//! Every sentence that is said of made banks, read for sense: what leads, its advice and the verdict say one
//! thing, no range has equal ends, plurals are right, nothing says nothing.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::truth::bank::{Fault, Made, make, make_two};
use crate::truth::told::{PAIRS, Told};
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::round::Assessment;
use rainshadow_core::severity::Severity;
use rainshadow_core::wording::{self, SpokenFinding};

const FAULTS: [Fault; 25] = [
    Fault::Healthy,
    Fault::Spread(15.0),
    Fault::Spread(25.0),
    Fault::Spread(45.0),
    Fault::LowCells(1, 20.0),
    Fault::LowCells(1, 40.0),
    Fault::LowCells(1, 70.0),
    Fault::LowCells(2, 35.0),
    Fault::LowCells(3, 60.0),
    Fault::HighCells(1, 30.0),
    Fault::HighCells(2, 50.0),
    Fault::Battery(20.0),
    Fault::Battery(50.0),
    Fault::String(35.0),
    Fault::Gradient(25.0),
    Fault::Gradient(50.0),
    Fault::ShortOfFull(20.0),
    Fault::NotFull(40.0),
    Fault::AcidInAll(25.0),
    Fault::AcidInCells(2, 40.0),
    Fault::LowLevels(20.0),
    Fault::Stratified(30.0),
    Fault::Stratified(60.0),
    Fault::DeadCell,
    Fault::Misread(40.0),
];

/// What is said of one bank.
struct Said {
    about: String,
    verdict: String,
    findings: Vec<SpokenFinding>,
    assessment: Assessment,
}

impl Said {
    fn of(mut made: Made, about: String, seed: u64) -> Self {
        // Some are not proven full, some are read by few.
        if seed.is_multiple_of(3) {
            made.round.conditions.proven_full = None;
        }
        if seed.is_multiple_of(7) {
            made.round.readings.truncate(made.round.readings.len() / 2);
        }
        let assessment = Told::of(&made).assessment;
        Self {
            about,
            verdict: wording::verdict(&assessment, ReaderUnits::default()),
            findings: assessment.findings.iter().map(|f| wording::speak(f, ReaderUnits::default())).collect(),
            assessment,
        }
    }
}

fn all() -> impl Iterator<Item = Said> {
    let one = FAULTS.into_iter().flat_map(|fault| {
        (9_000..9_060u64).filter_map(move |seed| {
            let made = make(seed, fault, seed % 2 == 0)?;
            Some(Said::of(made, format!("{fault:?}, seed {seed}"), seed))
        })
    });
    let two = PAIRS.into_iter().flat_map(|(faults, _, _)| {
        (9_000..9_030u64).filter_map(move |seed| {
            Some(Said::of(make_two(seed, faults)?, format!("{faults:?}, seed {seed}"), seed))
        })
    });
    one.chain(two)
}

/// Words that cannot stand together in a verdict and in the advice of the finding that leads, either way.
const CONTRADICT: [(&str, &str); 9] = [
    ("Equalize", "first on the next round"),
    ("Equalize", "again after the next full charge"),
    ("Equalize", "Charge fully and take the next round early"),
    ("Nothing to do", "Equalize"),
    ("Nothing to do", "Charge fully"),
    ("The bank is even", "qualize"),
    ("Watch", "Equalize with"),
    ("Test cell", "Equalize with"),
    ("Charge fully, then equalize", "Equalize with"),
];

#[test]
fn the_verdict_and_the_advice_of_what_leads_say_one_thing() {
    let mut read = 0;
    for said in all() {
        read += 1;
        let lead = said.findings.iter().find(|f| f.severity >= Severity::Watch);
        let Some(lead) = lead else {
            assert!(!said.verdict.contains("qualize"), "{}: {}", said.about, said.verdict);
            continue;
        };
        for (verdict, advice) in CONTRADICT {
            assert!(
                !(said.verdict.starts_with(verdict) && lead.advice.contains(advice)),
                "{}: “{}” beside “{}”",
                said.about,
                said.verdict,
                lead.advice
            );
        }
        let asked = |text: &str| text.contains("qualize");
        // Of a bank short of full an equalize is the next question, not the first thing to do.
        if !lead.headline.contains("does not reach full") {
            assert_eq!(
                asked(&said.verdict),
                asked(&lead.advice),
                "{}: {} {}",
                said.about,
                said.verdict,
                lead.advice
            );
        }
        assert!(!said.verdict.contains("Nothing to do"), "{}: {}", said.about, said.verdict);
        assert!(lead.explained_by.is_none(), "{}: what is explained leads", said.about);
        // What stands beside it asks for no equalize where the lead forbids one.
        if !asked(&said.verdict) && said.assessment.condition == Severity::Act {
            let other = said.findings.iter().find(|f| f.advice.starts_with("Equalize"));
            assert!(
                other.is_none(),
                "{}: {} beside {:?}",
                said.about,
                said.verdict,
                other.map(|f| &f.advice)
            );
        }
    }
    assert!(read > 1_000, "{read} banks read");
}

#[test]
fn nobody_is_sent_to_charge_a_bank_with_a_dead_cell_or_to_read_on_over_acid() {
    let mut dead = 0;
    for said in all() {
        let has = |text: &str| said.findings.iter().any(|f| f.headline.contains(text));
        let gives_none = has("gives no volts") || has("give no volts");
        dead += usize::from(gives_none);
        if !gives_none && !has("above full") {
            continue;
        }
        for finding in &said.findings {
            let charges = ["next full charge", "Charge fully", "harge fully and", "early"];
            assert!(
                !charges.iter().any(|w| finding.advice.contains(w)),
                "{}: {} {}",
                said.about,
                finding.headline,
                finding.advice
            );
        }
    }
    assert!(dead > 100, "{dead} banks with a dead cell");
}

/// Two numbers of a range that are the same: "12 to 12", "between 11 and 11", "15 points, 15 with".
fn equal_ends(text: &str) -> bool {
    let words: Vec<&str> =
        text.split(|c: char| c.is_whitespace() || "();,:".contains(c)).filter(|w| !w.is_empty()).collect();
    let number = |w: &str| w.parse::<f64>().is_ok();
    words.windows(3).any(|w| number(w[0]) && w[0] == w[2] && ["to", "and"].contains(&w[1]))
        || text.split("limit ").skip(1).any(|rest| {
            let (limit, used) = (rest.split(' ').next(), rest.split(" with this instrument").next());
            rest.contains(" with this instrument") && limit == used.and_then(|u| u.rsplit(' ').next())
        })
}

#[test]
fn sentences_are_whole_and_say_something() {
    for said in all() {
        let sentences = std::iter::once(said.verdict.as_str()).chain(
            said.findings.iter().flat_map(|f| [f.seen.as_str(), &f.advice, &f.why, &f.rule, &f.others]),
        );
        for text in sentences {
            let about = format!("{}: {text}", said.about);
            assert!(!equal_ends(text), "{about}");
            for wrong in [
                " 1 points",
                "(1 points",
                " 1 cells",
                "all 1 ",
                "all 2 ",
                "within 0 points",
                " 0 points under",
                "  ",
                "..",
                " .",
                "NaN",
                "inf",
                "None",
                "Some(",
                "-0",
                "no cell ",
            ] {
                assert!(!text.contains(wrong), "{about} has “{wrong}”");
            }
            assert!(!text.starts_with(char::is_lowercase), "{about}");
        }
        for finding in &said.findings {
            let one = finding.cells.len() == 1;
            let many = ["they stand", "Read them", " cells low", " cells high"];
            assert!(
                !(one && many.iter().any(|w| finding.headline.contains(w) || finding.advice.contains(w))),
                "{}: {finding:?}",
                said.about
            );
        }
    }
}

#[test]
fn ranges_with_equal_ends_are_found_by_the_reader_of_this_test() {
    assert!(equal_ends("lie 12 to 12 points under") && equal_ends("between 11 and 11"));
    assert!(equal_ends("RD-4: limit 15 points (Maker first), 15 with this instrument"));
    assert!(
        !equal_ends("lie 12 to 14 points under")
            && !equal_ends("limit 15 points (Maker first), 21 with this instrument")
    );
}
