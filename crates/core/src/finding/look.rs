//! What the eye finds (LO-1).

use super::{BarredBy, Bound, Certainty, EqualizeCall, Finding, FindingKind, LookFinding, RuleId, Tolerance};
use crate::severity::Severity;
use crate::visit::{Check, PLAY_ACT_MM, PLAY_WATCH_MM, Place, SeenFinding, TRAY_WATCH_VOLTS};

fn tolerance(check: Check, severity: Severity) -> Option<Tolerance> {
    let limit = match check {
        Check::HoldDown => Bound::Millimetres {
            millimetres: if severity == Severity::Act { PLAY_ACT_MM } else { PLAY_WATCH_MM },
        },
        Check::Tray => Bound::Volts { volts: TRAY_WATCH_VOLTS, by_meter: false },
        _ => return None,
    };
    Some(Tolerance::of_every_house(limit))
}

/// Something seen, by the entry that wrote it down.
pub fn finding(entry: &str, place: Place, check: Check, found: &SeenFinding) -> Finding {
    let seen = LookFinding::Seen {
        check,
        kind: found.kind.clone(),
        measured: found.measured,
        note: found.note.clone(),
    };
    let cells = match place {
        Place::Cell(cell) => vec![cell],
        _ => Vec::new(),
    };
    // What is broken is taken out and not charged: no equalize while it stands there.
    let damaged = check == Check::Case && found.severity == Severity::Act;
    let equalize =
        if damaged { EqualizeCall::Barred { by: BarredBy::DamagedCase } } else { EqualizeCall::default() };
    Finding {
        id: entry.to_owned(),
        equalize,
        cells,
        tolerance: found.measured.and_then(|_| tolerance(check, found.severity)),
        certainty: Certainty::Recorded,
        ..Finding::recorded(place.into(), FindingKind::Look(seen), found.severity, RuleId::Lo1)
    }
}
