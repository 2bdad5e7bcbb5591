//! One hour of a bank between its sources and its loads.

use super::account::ChargingAccount;
use super::asked::{ChargingAsked, PlugUse};
use super::source_hours::{engine_amperes, engine_hours, plug_hours};
use crate::charge::{Acceptance, returned};
use crate::simulator::CellKind;
use crate::storage::MonthlyLoss;

/// Charge from which a bank counts as full: the tail is reached.
const FULL: f64 = 0.999_5;
/// Steps of an hour of an engine: its current falls within minutes.
const ENGINE_STEPS: u32 = 6;

/// A bank on its way through a year.
pub(super) struct BankOfYear<'a> {
    pub asked: &'a ChargingAsked,
    /// Ah of a full one.
    pub capacity: f64,
    /// Share of it that is in, 0 to 1.
    pub charge: f64,
    /// What it loses by itself.
    pub loss: MonthlyLoss,
    /// Where its ampere-hours went.
    pub account: ChargingAccount,
}

impl BankOfYear<'_> {
    /// A current is offered and a load drawn for a part of an hour. What the loads leave charges.
    fn part(&mut self, offers: &mut Offers, load: f64, hours: f64) {
        let all = offers.all();
        let served = all.min(load);
        let before = self.charge;
        let mut drawn = 0.0;
        let mut taken = 0.0;
        if all > load {
            taken = self.takes(all - load, offers, hours);
        } else {
            drawn = ((load - all) * hours).min(self.charge * self.capacity);
            self.charge -= drawn / self.capacity;
        }
        let wanted = load * hours;
        let used = served * hours + drawn;
        self.account.used += used;
        self.account.missed += (wanted - used).max(0.0);
        let came = served * hours + taken;
        offers.book(&mut self.account, came);
        self.account.lost += taken - drawn - (self.charge - before) * self.capacity;
    }

    /// Takes what it can of a net current; Ah that went in.
    fn takes(&mut self, net: f64, offers: &Offers, hours: f64) -> f64 {
        let finishing = (net - offers.engine).max(0.0);
        if offers.engine <= 0.0 {
            let own = Acceptance::new(net, self.capacity, self.asked.model.construction);
            let (charge, taken) = own.after(self.charge, hours);
            self.charge = charge.min(1.0);
            return taken;
        }
        // An engine's regulator holds low volts: the cell model says what it takes at them.
        let kind = CellKind::of(self.asked.model.construction);
        let (main, gas) = kind.charging_at(self.charge, offers.engine_volts, 25.0);
        let at_most = (main + gas) * self.capacity;
        let others = if finishing > 0.0 {
            let own = Acceptance::new(finishing, self.capacity, self.asked.model.construction);
            own.after(self.charge, hours).1 / hours
        } else {
            0.0
        };
        let current = net.min(at_most.max(others));
        let charges = main / (main + gas).max(1e-12);
        let stored = current * hours * charges.min(1.0 / returned(self.asked.model.construction));
        let room = (1.0 - self.charge).max(0.0) * self.capacity;
        self.charge += stored.min(room) / self.capacity;
        current * hours
    }

    /// Loses by itself for an hour.
    pub(super) fn loses(&mut self, celsius: f64) {
        let lost = self.charge * self.loss.a_day(celsius) / 24.0;
        self.charge -= lost;
        self.account.lost += lost * self.capacity;
    }
}

/// What each source offers, A.
#[derive(Debug, Clone, Copy, Default)]
struct Offers {
    solar: f64,
    engine: f64,
    engine_volts: f64,
    generator: f64,
    shore: f64,
}

impl Offers {
    const fn all(&self) -> f64 {
        self.solar + self.engine + self.generator + self.shore
    }

    /// Parts what came among the sources by what each offered.
    fn book(&self, account: &mut ChargingAccount, came: f64) {
        let all = self.all();
        if all <= 0.0 {
            return;
        }
        account.solar += came * self.solar / all;
        account.engine += came * self.engine / all;
        account.generator += came * self.generator / all;
        account.shore += came * self.shore / all;
    }
}

/// One hour; true when a source that finishes filled it.
pub(super) fn an_hour(bank: &mut BankOfYear<'_>, (day, hour): (u32, u8), sun: f64, load: f64) -> bool {
    let asked = bank.asked;
    let plug = |own: Option<PlugUse>| own.map_or(0.0, |own| own.amperes * plug_hours(&own, day, hour));
    let mut offers = Offers {
        solar: sun,
        generator: plug(asked.generator),
        shore: plug(asked.shore),
        ..Offers::default()
    };
    let mut left = 1.0;
    let mut full = false;
    if let Some(engine) = asked.engine {
        let hours = engine_hours(&engine, day, hour);
        if hours > 0.0 {
            let mut own = Offers { engine: engine_amperes(&engine), engine_volts: engine.volts, ..offers };
            for _ in 0..ENGINE_STEPS {
                bank.part(&mut own, load, hours / f64::from(ENGINE_STEPS));
            }
            left -= hours;
        }
    }
    if left > 1e-9 {
        bank.part(&mut offers, load, left);
        full = bank.charge >= FULL && offers.all() > load;
    }
    full
}
