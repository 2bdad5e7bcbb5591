//! Closing up by duty: in use, into storage, on standby; what storage asks for before and after (SD-2, SD-3).
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::facts::{facts, item};
use crate::common::visits::{past, sheet};
use jiff::civil::{Date, date};
use rainshadow_core::battery_model::Construction;
use rainshadow_core::schedule::{Consequence, Duty, Season, Task, Why, due, usually_left};
use rainshadow_core::visit::{
    ClosingItem, Entry, Job, JobTask, LeftAs, VisitSheet, Work, charged_for_storage, closing_items,
    stored_since,
};
use rainshadow_core::wording;

fn season(opens: &str, closes: &str) -> Season {
    Season { opens: opens.parse().unwrap(), closes: closes.parse().unwrap() }
}

fn closed(item: ClosingItem) -> Entry {
    Entry::Closed { item, none_here: false }
}

fn left(how: LeftAs) -> Entry {
    Entry::LeftAs { how }
}

#[test]
fn a_bank_is_usually_left_by_its_duty_and_the_days_its_season_has_left() {
    let summer = Some(season("05-15", "10-18"));
    for (duty, season, day, expected) in [
        (Duty::Standby, summer, date(2026, 7, 1), LeftAs::Standby),
        (Duty::Cycled, None, date(2026, 12, 24), LeftAs::InUse),
        (Duty::Cycled, summer, date(2026, 7, 1), LeftAs::InUse),
        (Duty::Cycled, summer, date(2026, 10, 4), LeftAs::InUse),
        (Duty::Cycled, summer, date(2026, 10, 5), LeftAs::Stored),
        (Duty::Cycled, summer, date(2027, 1, 5), LeftAs::Stored),
    ] {
        assert_eq!(usually_left(duty, season, day), expected, "{duty:?} {day}");
    }
}

#[test]
fn into_storage_nothing_is_asked_to_be_switched_on() {
    let stored = closing_items(Construction::Flooded, LeftAs::Stored);
    for item in [ClosingItem::SwitchOn, ClosingItem::LoadsRun, ClosingItem::ChargersAutomatic] {
        assert!(!stored.contains(&item), "{item:?}");
    }
    assert!(stored.contains(&ClosingItem::FullForStorage) && stored.contains(&ClosingItem::LevelsForStorage));
    let standby = closing_items(Construction::Agm, LeftAs::Standby);
    for item in [ClosingItem::AlarmTried, ClosingItem::ChargerLamp, ClosingItem::FloatSwitch] {
        assert!(standby.contains(&item) && item.may_be_missing(), "{item:?}");
    }
}

#[test]
fn what_is_not_ticked_follows_how_the_bank_is_left() {
    let ticked = |how: Option<LeftAs>| {
        let items = closing_items(Construction::Flooded, LeftAs::Stored);
        let entries = how.map(left).into_iter().chain(items.into_iter().map(closed));
        sheet(entries.map(|entry| ("", entry)).collect())
    };
    assert_eq!(ticked(Some(LeftAs::Stored)).not_closed(Construction::Flooded), []);
    let in_use = [ClosingItem::SwitchOn, ClosingItem::LoadsRun, ClosingItem::ChargersAutomatic];
    assert_eq!(ticked(Some(LeftAs::InUse)).not_closed(Construction::Flooded), in_use);
    let mut usual: VisitSheet = ticked(None);
    usual.usually_left = LeftAs::Stored;
    assert_eq!((usual.left_as(), usual.left_as_said()), (LeftAs::Stored, None));
    assert_eq!(usual.not_closed(Construction::Flooded), []);
}

#[test]
fn the_owner_reads_how_it_was_left_and_what_is_not_there() {
    let own = sheet(vec![
        ("", left(LeftAs::Standby)),
        ("", closed(ClosingItem::CapsOn)),
        ("", closed(ClosingItem::AlarmTried)),
        ("", Entry::Closed { item: ClosingItem::FloatSwitch, none_here: true }),
    ]);
    assert_eq!(wording::owner_left_as(&own).unwrap(), "Left on standby: alarm tried; no float switch here");
    // ticked for storage, then left in use after all
    let after_all = vec![("", closed(ClosingItem::FullForStorage)), ("", left(LeftAs::InUse))];
    assert_eq!(wording::owner_left_as(&sheet(after_all)).unwrap(), "Left in use");
    assert_eq!(wording::owner_left_as(&sheet(vec![("", left(LeftAs::Stored))])).unwrap(), "Left in storage");
    assert_eq!(wording::owner_left_as(&sheet(vec![("", closed(ClosingItem::CapsOn))])), None, "nobody said");
}

/// What the list of a job or the work of the visit says already is not asked for again, and the owner reads it.
#[test]
fn a_storage_preparation_answers_its_part_of_the_closing_list() {
    let job = ("", Entry::Job { job: Job::StoragePreparation });
    let charged = ("", Entry::Done { work: Work::ChargedFull, note: String::new() });
    let water = |to_mark| Entry::Water {
        millilitres: 900.0,
        to_mark,
        by_kit: false,
        stands: false,
        poured: rainshadow_core::water::Poured::default(),
    };
    let off = |none_here| ("", Entry::JobTask { task: JobTask::Disconnected, none_here });
    let open = |entries: Vec<(&'static str, Entry)>| sheet(entries).not_closed(Construction::Flooded);
    let all = open(vec![job.clone()]);
    let done = vec![job.clone(), charged.clone(), ("", water(true)), off(false)];
    let left_open = open(done.clone());
    let answered: Vec<ClosingItem> = all.iter().copied().filter(|own| !left_open.contains(own)).collect();
    assert_eq!(
        answered,
        [ClosingItem::FullForStorage, ClosingItem::LevelsForStorage, ClosingItem::DisconnectsAsWanted]
    );
    assert_eq!(
        open(vec![job.clone(), ("", water(false)), ("A1", water(true))]),
        all,
        "not all of it, not to the mark"
    );
    assert_eq!(
        wording::owner_left_as(&sheet(done.clone())).unwrap(),
        "Left in storage: charged full before it is stored; levels put right for the months to come; \
         disconnects left as wanted"
    );
    // it is stored from that day on; one that was only begun stores nothing, and a spring check ends it
    let winter = |entries| past(date(2026, 10, 18), entries);
    assert_eq!(stored_since(&[winter(done.clone())]), Some(date(2026, 10, 18)));
    assert_eq!(stored_since(&[winter(vec![job, charged])]), None);
    let spring = past(date(2027, 5, 2), vec![("", Entry::Job { job: Job::SpringCheck })]);
    assert_eq!(stored_since(&[winter(done), spring]), None);
}

/// A check in the midst of storage: nothing is charged or filled for the months to come, and what it ticked is not asked again.
#[test]
fn a_storage_check_closes_with_what_it_touched() {
    let job = ("", Entry::Job { job: Job::StorageCheck });
    let open = |entries: Vec<(&'static str, Entry)>| sheet(entries).not_closed(Construction::Flooded);
    let all = open(vec![job.clone()]);
    assert!(!all.contains(&ClosingItem::FullForStorage) && !all.contains(&ClosingItem::LevelsForStorage));
    assert!(all.contains(&ClosingItem::CapsOn) && all.contains(&ClosingItem::NothingDraws));
    let off = ("", Entry::JobTask { task: JobTask::NothingDraws, none_here: false });
    let left_open = open(vec![job, off]);
    assert_eq!(left_open.len() + 2, all.len());
    assert!(
        !left_open.contains(&ClosingItem::NothingDraws)
            && !left_open.contains(&ClosingItem::DisconnectsAsWanted)
    );
}

#[test]
fn a_full_charge_is_asked_for_a_week_before_the_season_closes() {
    let mut own = facts();
    own.season = Some(season("05-15", "10-18"));
    let asked = item(&own, Task::ChargeForStorage);
    assert_eq!((asked.date, asked.consequence), (date(2026, 10, 11), Consequence::Loss));
    assert_eq!(asked.why, Why::SeasonCloses { closes: date(2026, 10, 18) });
    // charged for it, by the closing list or by the work: the next one is a year away
    own.charged_for_storage = Some(date(2026, 10, 9));
    assert_eq!(item(&own, Task::ChargeForStorage).date, date(2027, 10, 11));
    own.season = None;
    assert!(
        due(&own).iter().all(|i| i.task != Task::ChargeForStorage),
        "a bank in use all year closes nothing"
    );
}

#[test]
fn a_bank_that_was_stored_without_a_season_is_checked_and_asked_about() {
    let mut own = facts();
    let since = date(2026, 10, 3);
    own.stored_since = Some(since);
    let asked = item(&own, Task::SayWhenUsed);
    assert_eq!((asked.date, asked.why), (since, Why::StoredWithoutSeason { since }));
    // the house of maker first asks for a storage check every 60 days (schools, storage check at the latest)
    assert_eq!(item(&own, Task::StorageCheck).date, date(2026, 12, 2));
    own.season = Some(season("05-15", "10-18"));
    assert!(due(&own).iter().all(|i| i.task != Task::SayWhenUsed), "its season says when");
}

#[test]
fn the_last_visit_that_said_how_it_is_left_counts() {
    let day = |n: i8| -> Date { date(2026, 9, n) };
    let mut visits = vec![
        past(day(1), vec![("", left(LeftAs::InUse))]),
        past(day(2), vec![("", left(LeftAs::Stored)), ("", closed(ClosingItem::FullForStorage))]),
        past(day(9), vec![("", closed(ClosingItem::CapsOn))]),
    ];
    assert_eq!((stored_since(&visits), charged_for_storage(&visits)), (Some(day(2)), Some(day(2))));
    visits.push(past(
        day(20),
        vec![("", left(LeftAs::InUse)), ("", Entry::Done { work: Work::ChargedFull, note: String::new() })],
    ));
    assert_eq!((stored_since(&visits), charged_for_storage(&visits)), (None, Some(day(20))));
}
