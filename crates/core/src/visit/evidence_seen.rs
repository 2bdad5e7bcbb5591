//! What the eye found on visits, as signs of a diagnosis (DG-1).

use super::{Check, Entry, JointsOnRecord, Judged, PastVisit, open_findings};
use crate::diagnosis::SeenSign;
use crate::finding::{FindingKind, LookFinding, Subject};
use crate::parallel_share::WITHIN;
use crate::water::{Level, LevelStep};

/// Volts from the posts to the tray or case that leak (our choice, no source).
const LEAKS: f64 = 1.0;

/// The sign that something found by eye is, where it is one.
fn sign_of(check: Check, kind: &str, has_caps: bool) -> Option<&'static str> {
    Some(match (check, kind) {
        (Check::Case, "bulge") if !has_caps => "swollen",
        (Check::Case, "bulge" | "crack") => "bulged",
        (Check::Top, "wet") => "tops_wet",
        (Check::Terminals, "powder" | "green" | "loose") => "powder",
        (Check::Terminals, "burnt") | (Check::Cables, "hot") => "hot_lug",
        (Check::Sensor, "missing" | "off") => "no_sensor",
        (Check::Caps | Check::Seal, "dry") => "plates_show",
        (Check::Seal, "vents") => "spits",
        (Check::Tray, "track") => "acid_trail",
        _ => return None,
    })
}

/// What the eye found and nobody put right, and what it found in order on the last visit that looked.
pub(super) fn seen(visits: &[PastVisit], bank: Judged<'_>) -> Vec<SeenSign> {
    let has_caps = bank.model.construction.has_caps();
    let sign = |key: &str, of: String| SeenSign { sign: key.into(), of };
    let mut all = Vec::new();
    for open in open_findings(visits) {
        let FindingKind::Look(LookFinding::Seen { check, kind, measured, .. }) = &open.finding.kind else {
            continue;
        };
        let of = match open.finding.subject {
            Subject::Battery(battery) => battery.to_string(),
            _ => String::new(),
        };
        all.extend(sign_of(*check, kind, has_caps).map(|key| sign(key, of.clone())));
        if *check == Check::Tray && measured.is_some_and(|volts| volts.abs() >= LEAKS) {
            all.push(sign("leaks_to_case", of));
        }
    }
    let looked =
        |check: Check| visits.iter().rev().find(|v| v.sheet.checked(check) && !v.sheet.not_here(check));
    all.extend(leads(visits, bank).map(|key| sign(key, String::new())));
    let open = |keys: &[&str]| all.iter().any(|own: &SeenSign| keys.contains(&own.sign.as_str()));
    let mut normal = Vec::new();
    if looked(Check::Top).is_some() && !open(&["tops_wet"]) {
        normal.push("tops_dry");
    }
    if looked(Check::Sensor).is_some() && !open(&["no_sensor"]) {
        normal.push("sensor_there");
    }
    if tray_volts(visits).is_some_and(|volts| volts.abs() < LEAKS) && !open(&["leaks_to_case"]) {
        normal.push("no_leak");
    }
    if let Some(levels) = last_levels(visits, bank).filter(|_| has_caps) {
        normal.extend((!open(&["plates_show"])).then_some(if levels {
            "plates_covered"
        } else {
            "plates_show"
        }));
    }
    all.extend(normal.into_iter().map(|key| sign(key, String::new())));
    all
}

/// Shares that the cables alone would make of sound batteries are unequal from here, and equal to here, relative (our
/// choice, no source).
const LEADS: [f64; 2] = [WITHIN, 0.02];

/// What the cables say by themselves of how the strings share.
fn leads(visits: &[PastVisit], bank: Judged<'_>) -> Option<&'static str> {
    let wiring = visits.last()?.sheet.wiring.as_ref()?;
    let nothing_read = JointsOnRecord::default();
    let off = nothing_read.share(wiring, bank, 1.0)?.now.furthest;
    match off {
        off if off > LEADS[0] => Some("leads_unequal"),
        off if off <= LEADS[1] => Some("leads_equal"),
        _ => None,
    }
}

/// Volts from the posts to the tray as they were measured last, wherever they were most.
fn tray_volts(visits: &[PastVisit]) -> Option<f64> {
    visits.iter().rev().find_map(|visit| {
        let own = visit.sheet.standing().filter_map(|kept| match &kept.entry {
            Entry::Checked { check: Check::Tray, measured, .. } => *measured,
            _ => None,
        });
        own.max_by(|a, b| a.abs().total_cmp(&b.abs()))
    })
}

/// True where every plate was covered at the last look at the levels; none: nobody looked.
fn last_levels(visits: &[PastVisit], bank: Judged<'_>) -> Option<bool> {
    visits.iter().rev().find_map(|visit| {
        let levels = visit.sheet.levels_as_found(bank.shape);
        let bare = |own: &Level| own.step(bank.model) == LevelStep::PlatesBare;
        (!levels.is_empty()).then(|| !levels.iter().any(|(_, own)| bare(own)))
    })
}
