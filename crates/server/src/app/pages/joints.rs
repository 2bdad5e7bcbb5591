//! Joints and strings of a bank in a reader's words: on its page, and in the step of a visit.

mod cables;
mod lines;
mod options;
mod torque;

pub use cables::{CableLine, StringLine};
pub use lines::{BatteryResistanceLine, JointLine};
pub use options::ShareOptionLine;
pub use torque::TorqueLine;

use crate::app::App;
use crate::app::fresh::{self, Wanted};
use crate::app::refused::AppResult;
use crate::app::rules::rules_of;
use crate::db::visit_entries::past_visits;
use crate::db::{BankRow, Connection, DbError, EquipmentRow, ModelRow, due};
use jiff::civil::Date;
use rainshadow_core::bank::Plan;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::conductor::{COPPER, LUG_MILLIOHMS};
use rainshadow_core::finding::RuleId;
use rainshadow_core::parallel_share::WITHIN;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::schedule::Task;
use rainshadow_core::visit::{JointsOnRecord, Judged, PastVisit, VisitSheet, joints_on_record, torque_log};
use rainshadow_core::wiring::{Coupling, Wiring, WiringShare, against_clamp};
use rainshadow_core::wording;
use serde::Serialize;
use utoipa::ToSchema;

/// Share of the 20-hour capacity that a bank nobody measured is drawn for, A for each Ah (our choice, no source).
const DRAWN_FOR: f64 = 0.2;

/// Joints and strings as they stand.
#[derive(Debug, Serialize, ToSchema)]
pub struct JointsView {
    /// The one sentence.
    pub verdict: String,
    /// What it rests on, in a few words each.
    pub evidence: Vec<String>,
    /// The bank from above.
    pub plan: Plan,
    /// True where somebody told how the strings come together, or there is one.
    pub wired: bool,
    /// True where leads go to busbars, not cables from string to string.
    pub busbars: bool,
    /// Strings that plus and minus are taken off at, 0 is A.
    pub taken_off: [usize; 2],
    /// Where the change with the least work takes them off; none: they stay.
    pub taken_off_then: Option<[usize; 2]>,
    /// Current that it is drawn for, A.
    pub amperes: f64,
    /// What that current is: "as clamped on 5 October".
    pub amperes_said: String,
    /// String by string.
    pub strings: Vec<StringLine>,
    /// Cables of the plus from string to string, or leads of the strings.
    pub positive: Vec<CableLine>,
    /// Cables of the minus.
    pub negative: Vec<CableLine>,
    /// The link from battery to battery: "0.30 m, 25 mm²"; empty: not told.
    pub link: String,
    /// Every joint, along the strings.
    pub joints: Vec<JointLine>,
    /// What the rest of them show, in one line; empty: nothing was read.
    pub joints_said: String,
    /// Resistances of the batteries, where they were read.
    pub batteries: Vec<BatteryResistanceLine>,
    /// As it is, then what could be done, the least work first.
    pub options: Vec<ShareOptionLine>,
    /// How far from even is still even, relative.
    pub within: f64,
    /// Why they are uneven; empty: they are even, or nothing explains it.
    pub why: String,
    /// What that does.
    pub does: String,
    /// What the figures rest on.
    pub known: Vec<String>,
    /// Rules and sources.
    pub rule: String,
    /// What a cable counts as.
    pub cable_rule: String,
    /// Every tightening, the newest first.
    pub torque: Vec<TorqueLine>,
    /// What the model asks for: "9 N·m (6.6 lbf·ft)"; empty: not published.
    pub torque_asked: String,
}

/// The page of the joints of a bank.
#[derive(Debug, Serialize, ToSchema)]
pub struct JointsPage {
    /// As they stand.
    #[serde(flatten)]
    pub view: JointsView,
    /// When the joints are due to be tightened, and why.
    pub torque_due: String,
}

/// What joints and strings are told from.
pub(super) struct JointsSource<'a> {
    /// What is measured, and what judges it.
    pub judged: Judged<'a>,
    /// Visits, oldest first.
    pub visits: &'a [PastVisit],
    /// How it is wired.
    pub wiring: &'a Wiring,
    /// The visit that is shown; none: the bank itself.
    pub now: Option<&'a VisitSheet>,
    /// Today, for days that are told.
    pub today: Date,
}

/// What the parts of the view share.
struct Told<'a> {
    from: &'a JointsSource<'a>,
    record: JointsOnRecord,
    share: Option<WiringShare>,
    amperes: f64,
}

fn drawn_for(record: &JointsOnRecord, model: &BatteryModel, strings: u8, today: Date) -> (f64, String) {
    let day = |day| wording::short_day(day, today);
    let clamped = record.clamped.as_ref().map(|(on, all)| (*on, all.iter().sum::<f64>().abs()));
    match (record.round, clamped) {
        (Some((on, _, amperes)), None) => (amperes, format!("joints of {}, at {amperes:.1} A", day(on))),
        (Some((joints, _, amperes)), Some((on, sum))) if joints >= on || sum < 0.1 => {
            (amperes, format!("joints of {}, at {amperes:.1} A", day(joints)))
        }
        (_, Some((on, sum))) if sum >= 0.1 => (sum, format!("clamped {}, {sum:.1} A", day(on))),
        _ => {
            let amperes = (DRAWN_FOR * model.c20.ampere_hours() * f64::from(strings)).max(0.1);
            (amperes, format!("nothing measured; drawn for {amperes:.0} A"))
        }
    }
}

impl Told<'_> {
    fn evidence(&self) -> Vec<String> {
        let mut all = Vec::new();
        for joint in self.record.bad() {
            let Some(own) = self.record.joints.get(&joint) else { continue };
            let judged = &own.read.judged;
            all.push(format!("{joint} drops {:.1} mV at {:.1} A", judged.millivolts, own.read.through));
            if let Some(times) = judged.times_like {
                let like = judged.milliohms / times;
                all.push(format!("its like {like:.2} mΩ, itself {:.2}", judged.milliohms));
            }
        }
        let explained = self.share.as_ref().map(|own| own.now.amperes.clone());
        let amperes = self.record.clamped.as_ref().map(|(_, all)| all.clone()).or(explained);
        all.extend(amperes.map(|amperes| format!("strings {}", wording::currents_said(&amperes))));
        let against = self.share.as_ref().zip(self.record.clamped.as_ref());
        all.extend(
            against
                .and_then(|(share, (_, own))| against_clamp(share, own))
                .map(|own| wording::clamp_said(&own)),
        );
        all
    }

    fn known(&self) -> Vec<String> {
        let mut all = Vec::new();
        all.extend(self.record.round.map(|(_, by, _)| wording::current_by(by).to_owned()));
        let share = self.share.as_ref().filter(|_| self.from.judged.shape.parallel > 1);
        all.extend(share.map(|own| wording::resistance_known(own.resistance).to_owned()));
        all
    }

    /// Where the cables come off after the change with the least work.
    fn taken_off_then(&self) -> Option<[usize; 2]> {
        let share = self.share.as_ref()?;
        let option = share.options.get(share.cheapest?)?;
        self.from.wiring.taken_off_after(option.change, self.from.judged.shape.parallel)
    }
}

/// Joints and strings in words.
pub(super) fn joints_view(from: &JointsSource<'_>) -> JointsView {
    let (bank, model) = (from.judged.shape, from.judged.model);
    let record = joints_on_record(from.visits, from.judged);
    let (amperes, amperes_said) = drawn_for(&record, model, bank.parallel, from.today);
    let share = record.share(from.wiring, from.judged, amperes);
    let told = Told { from, record, share, amperes };
    let clamped = told.record.clamped.as_ref().map(|(_, own)| own.as_slice());
    let coupling = from.wiring.coupling.as_ref();
    JointsView {
        verdict: wording::joints_headline(
            &told.record.bad(),
            told.share.as_ref(),
            clamped,
            (told.record.joints.len(), bank.parallel),
        ),
        evidence: told.evidence(),
        plan: bank.plan(),
        wired: bank.parallel < 2 || coupling.is_some(),
        busbars: matches!(coupling, Some(Coupling::Busbars { .. })),
        taken_off: from.wiring.taken_off_rails().unwrap_or_default(),
        taken_off_then: told.taken_off_then(),
        amperes,
        amperes_said,
        strings: told.strings(),
        positive: told.cables(rainshadow_core::joints::Pole::Positive),
        negative: told.cables(rainshadow_core::joints::Pole::Negative),
        link: from.wiring.link.as_ref().map(cables::cable_said).unwrap_or_default(),
        joints: told.joints(),
        joints_said: told.joints_said(),
        batteries: told.batteries(),
        options: told.options(),
        within: WITHIN,
        why: told
            .share
            .as_ref()
            .and_then(|own| own.why)
            .map(|own| wording::why_uneven(&own))
            .unwrap_or_default(),
        does: told.share.as_ref().map(wording::uneven_does).unwrap_or_default(),
        known: told.known(),
        rule: format!(
            "CN-1: {}. ST-1: {}. Maker\u{2019}s manual first.",
            RuleId::Cn1.source(),
            RuleId::St1.source()
        ),
        cable_rule: format!(
            "Copper counts as {COPPER} mΩ·mm² a metre at 20 °C, a lug as {LUG_MILLIOHMS} mΩ where nothing else is typed."
        ),
        torque: torque_log(from.visits).iter().rev().map(TorqueLine::of).collect(),
        torque_asked: model.post_torque.map(wording::torque).unwrap_or_default(),
    }
}

fn torque_due(
    db: &Connection,
    bank: &BankRow,
    model: &BatteryModel,
    today: Date,
    units: ReaderUnits,
) -> Result<String, DbError> {
    let reader =
        wording::DueReader { construction: model.construction, cells: bank.shape.cell_count(), today, units };
    let rows = due::of_bank(db, &bank.id, today)?;
    let own = rows.iter().find(|row| row.item.task == Task::RetorqueAndClean);
    Ok(own
        .map(|row| {
            let said = wording::due(&row.item, &reader);
            format!("Torque due {}: {}", wording::short_day(row.item.date, today), said.why)
        })
        .unwrap_or_default())
}

fn page(db: &Connection, id: &str, today: Date, units: ReaderUnits) -> Result<JointsPage, DbError> {
    let bank = BankRow::by_id(db, id)?;
    let model = ModelRow::by_id(db, &bank.model_id)?;
    let rules = rules_of(db, &bank)?;
    let visits = past_visits(db, &bank)?;
    let wiring = EquipmentRow::of_bank(db, &bank.id)?.fitted.equipment.wiring;
    let view = joints_view(&JointsSource {
        judged: Judged { shape: &bank.shape, model: &model, rules: &rules },
        visits: &visits,
        wiring: &wiring,
        now: None,
        today,
    });
    Ok(JointsPage { view, torque_due: torque_due(db, &bank, &model, today, units)? })
}

/// Joints and strings of a bank.
///
/// # Errors
/// Whatever the reading fails with.
pub async fn joints_page(app: &App, id: String, units: ReaderUnits) -> AppResult<JointsPage> {
    let today = app.clock.today();
    Ok(fresh::read(app, Wanted::Bank(id.clone()), move |db| page(db, &id, today, units)).await?)
}
