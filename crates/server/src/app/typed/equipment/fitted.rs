//! Switches, fuses and balancers, the technician's own numbers and how the cables go, as typed.

use super::super::faults::{Faults, filled};
use super::TypedEquipment;
use rainshadow_core::equipment::{Connection, Fitting, FittingKind};
use rainshadow_core::quantity::{bounds, typed};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Characters that a name or a mark may have.
const MOST: usize = 120;

/// A fitting as typed.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct TypedFitting {
    /// What it is.
    pub kind: FittingKind,
    /// Where it is and what it serves.
    #[serde(default)]
    pub whereto: String,
    /// What it is rated for, A; empty: not told.
    #[serde(default)]
    pub amperes: String,
}

/// One cable as typed.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(default)]
pub struct TypedConnection {
    /// From where, as "A1 +".
    pub from: String,
    /// To where.
    pub to: String,
    /// How it is marked: tape, number, size.
    pub mark: String,
}

fn short(f: &mut Faults, field: &str, text: &str) -> Option<String> {
    let text = text.trim();
    let fits = text.chars().count() <= MOST;
    let said = format!("This is longer than {MOST} characters; accepted is a short text");
    f.take(field, if fits { Ok(text.to_owned()) } else { Err(said) })
}

impl TypedEquipment {
    pub(super) fn fittings(&self, f: &mut Faults) -> Vec<Fitting> {
        let mut all = Vec::new();
        for (i, own) in self.fittings.iter().enumerate() {
            let whereto = short(f, &format!("fittings[{i}].whereto"), &own.whereto);
            let amperes = filled(Some(&own.amperes)).and_then(|t| {
                f.take(&format!("fittings[{i}].amperes"), typed::number(t, bounds::BANK_CURRENT))
            });
            all.extend(whereto.map(|whereto| Fitting { kind: own.kind, whereto, amperes }));
        }
        all
    }

    /// Every cable that has two ends.
    pub(super) fn hook_up(&self, f: &mut Faults) -> Vec<Connection> {
        let mut all = Vec::new();
        for (i, own) in self.hook_up.iter().enumerate() {
            let field = |name: &str| format!("hook_up[{i}].{name}");
            let ends = (own.from.trim(), own.to.trim());
            match ends {
                ("", "") if own.mark.trim().is_empty() => continue,
                ("", _) => {
                    f.take::<(), _>(&field("from"), Err("a cable has two ends; say where it comes from"));
                }
                (_, "") => {
                    f.take::<(), _>(&field("to"), Err("a cable has two ends; say where it goes"));
                }
                _ => {}
            }
            let from = short(f, &field("from"), &own.from);
            let to = short(f, &field("to"), &own.to);
            let mark = short(f, &field("mark"), &own.mark);
            all.extend(from.zip(to).zip(mark).map(|((from, to), mark)| Connection { from, to, mark }));
        }
        all
    }

    /// One number for each battery at most, each once.
    pub(super) fn own_numbers(&self, f: &mut Faults, batteries: usize) -> Vec<String> {
        if self.own_numbers.trim().is_empty() {
            return Vec::new();
        }
        let all: Vec<String> = self.own_numbers.split(',').map(|n| n.trim().to_owned()).collect();
        let mut seen = std::collections::HashSet::new();
        let twice = all.iter().find(|n| !n.is_empty() && !seen.insert(n.as_str()));
        let checked = match twice {
            Some(twice) => {
                Err(format!("\u{201c}{twice}\u{201d} stands twice; every battery has a number of its own"))
            }
            None if all.len() > batteries => Err(format!(
                "{} numbers are too many for {batteries} batteries; accepted is one each, in the order of the addresses",
                all.len()
            )),
            None => Ok(all),
        };
        f.take("own_numbers", checked).unwrap_or_default()
    }
}
