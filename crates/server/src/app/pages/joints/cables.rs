//! Cables and strings as they are drawn.

use super::Told;
use rainshadow_core::bank::string_letter;
use rainshadow_core::conductor::{Cable, Section};
use rainshadow_core::joints::Pole;
use rainshadow_core::severity::Severity;
use serde::Serialize;
use utoipa::ToSchema;

/// A cable from string to string, or a lead.
#[derive(Debug, Serialize, ToSchema)]
pub struct CableLine {
    /// "0.45 m, 25 mm²".
    pub said: String,
    /// Current through it, A.
    pub amperes: f64,
    /// Drop along it, mV: "8.4".
    pub millivolts: String,
}

/// One string.
#[derive(Debug, Serialize, ToSchema)]
pub struct StringLine {
    /// Its letter.
    pub letter: char,
    /// Current that it gives, A; none: nobody told how it is wired, and nobody clamped it.
    pub amperes: Option<f64>,
    /// Per cent of the whole: "56"; empty: not known.
    pub percent: String,
    /// A by clamp meter: "33.9"; empty: not clamped.
    pub clamped: String,
    /// How it stands.
    pub condition: Severity,
}

/// "0.45 m, 25 mm²", "0.45 m, 2/0 AWG".
pub(super) fn cable_said(own: &Cable) -> String {
    let section = match own.section {
        Section::SquareMillimetres(size) => format!("{size:.0} mm²"),
        Section::Awg(gauge) if gauge <= 0 => format!("{}/0 AWG", 1 - i16::from(gauge)),
        Section::Awg(gauge) => format!("{gauge} AWG"),
    };
    format!("{:.2} m, {section}", own.metres)
}

impl Told<'_> {
    pub(super) fn strings(&self) -> Vec<StringLine> {
        let strings = self.from.judged.shape.parallel;
        let clamped = self.record.clamped.as_ref().map(|(_, own)| own);
        let line = |string: u8| {
            let at = usize::from(string);
            let own = self.share.as_ref().and_then(|share| share.now.amperes.get(at)).copied();
            let share = self.share.as_ref().and_then(|share| share.now.shares.get(at)).copied();
            let read = clamped.and_then(|all| all.get(at)).copied();
            let sum: f64 = clamped.map_or(0.0, |all| all.iter().sum());
            let share = share.or_else(|| read.filter(|_| sum.abs() > 0.0).map(|own| own / sum));
            let (amperes, share) =
                if strings < 2 { (Some(self.amperes), Some(1.0)) } else { (own.or(read), share) };
            let off = share.map(|own| (own * f64::from(strings.max(1)) - 1.0).abs());
            StringLine {
                letter: string_letter(string),
                amperes,
                percent: share.map(|own| format!("{:.0}", 100.0 * own)).unwrap_or_default(),
                clamped: read.map(|own| format!("{own:.1}")).unwrap_or_default(),
                condition: match off {
                    None => Severity::NoReading,
                    Some(off) if off <= rainshadow_core::parallel_share::WITHIN + 1e-9 => Severity::Steady,
                    Some(_) => Severity::Watch,
                },
            }
        };
        (0..strings).map(line).collect()
    }

    pub(super) fn cables(&self, pole: Pole) -> Vec<CableLine> {
        let strings = self.from.judged.shape.parallel;
        let Some(coupling) = self.from.wiring.coupling.as_ref() else { return Vec::new() };
        let Ok(cables) = coupling.cables(pole, strings) else { return Vec::new() };
        let rails = self.share.as_ref().map(|own| &own.rails[usize::from(pole == Pole::Negative)]);
        let through = |at: usize| {
            let rail = rails.and_then(|own| own.get(at)).copied();
            rail.or_else(|| self.share.as_ref().and_then(|own| own.now.amperes.get(at)).copied())
        };
        let line = |(at, cable): (usize, &Cable)| {
            let amperes = through(at).unwrap_or_default();
            let drop = cable.milliohms().map(|own| own * amperes).unwrap_or_default();
            CableLine { said: cable_said(cable), amperes, millivolts: format!("{drop:.1}") }
        };
        cables.iter().enumerate().map(line).collect()
    }
}
