//! The open SunSpec models that a charger of a battery bank speaks: 1 (common), 714 (DC measurement of
//! a converter's ports) and 802 (battery base). Offsets, enumerations and "not implemented" values are
//! those of the published model definitions, from memory.

use rainshadow_core::feed::{FeedStage, Sample};

/// Where a map may begin.
pub const BASES: [u16; 3] = [40_000, 0, 50_000];
/// Two registers that open a map: the letters `SunS`.
pub const MARK: [u16; 2] = [0x5375, 0x6e53];
/// Id that ends a map.
pub const END: u16 = 0xffff;
/// Common model and its length.
pub const COMMON: (u16, u16) = (1, 66);
/// DC measurement.
pub const DC: u16 = 714;
/// Its registers before the first port, id and length not counted.
pub const DC_FIXED: u16 = 18;
/// Registers of one port.
pub const DC_PORT: u16 = 25;
/// Battery base model and its length.
pub const BATTERY: (u16, u16) = (802, 62);

const NO_INT: u16 = 0x8000;
const NO_UINT: u16 = 0xffff;
/// Type of a port: energy storage.
const STORAGE: u16 = 1;
/// Lead-acid, among the types of a battery.
const LEAD_ACID: u16 = 1;

/// Registers of model 802 behind id and length: where each point lies.
mod battery {
    pub const SOC: usize = 9;
    pub const CHARGE_STATE: usize = 14;
    pub const HEARTBEAT: usize = 16;
    pub const TYPE: usize = 19;
    pub const STATE: usize = 20;
    pub const VOLTS: usize = 32;
    pub const AMPERES: usize = 42;
    pub const SOC_SCALE: usize = 54;
    pub const VOLTS_SCALE: usize = 57;
    pub const AMPERES_SCALE: usize = 59;
}

/// The same of model 714.
mod dc {
    pub const PORTS: usize = 2;
    pub const AMPERES_SCALE: usize = 13;
    pub const VOLTS_SCALE: usize = 14;
    pub const TEMPERATURE_SCALE: usize = 17;
    /// Within a port.
    pub const TYPE: usize = 0;
    pub const AMPERES: usize = 10;
    pub const VOLTS: usize = 11;
    pub const TEMPERATURE: usize = 21;
}

/// A scale factor, −10 to 10; none: not implemented or nonsense.
fn scale(register: Option<&u16>) -> Option<f64> {
    let power = i16::from_ne_bytes(register?.to_ne_bytes());
    (-10..=10).contains(&power).then(|| 10f64.powi(i32::from(power)))
}

fn signed(register: Option<&u16>, scale: Option<f64>) -> Option<f64> {
    let raw = *register?;
    (raw != NO_INT).then(|| f64::from(i16::from_ne_bytes(raw.to_ne_bytes())) * scale.unwrap_or(1.0))
}

fn unsigned(register: Option<&u16>, scale: Option<f64>) -> Option<f64> {
    let raw = *register?;
    (raw != NO_UINT).then(|| f64::from(raw) * scale.unwrap_or(1.0))
}

fn stage(register: Option<&u16>) -> Option<FeedStage> {
    Some(match *register? {
        1 => FeedStage::Off,
        2 => FeedStage::Empty,
        3 => FeedStage::Discharging,
        4 => FeedStage::Charging,
        5 => FeedStage::Full,
        6 => FeedStage::Holding,
        7 => FeedStage::Testing,
        _ => return None,
    })
}

const fn stage_code(stage: FeedStage) -> u16 {
    match stage {
        FeedStage::Off => 1,
        FeedStage::Empty => 2,
        FeedStage::Discharging => 3,
        FeedStage::Charging => 4,
        FeedStage::Full => 5,
        FeedStage::Holding => 6,
        FeedStage::Testing => 7,
    }
}

/// The port of a converter that the batteries are on: the one of their type, else the last.
fn port(registers: &[u16]) -> Option<&[u16]> {
    let fixed = usize::from(DC_FIXED);
    let ports: Vec<&[u16]> = registers.get(fixed..)?.chunks_exact(usize::from(DC_PORT)).collect();
    let count = usize::from(*registers.get(dc::PORTS)?).min(ports.len());
    let ports = ports.get(..count)?;
    ports.iter().find(|p| p.get(dc::TYPE) == Some(&STORAGE)).or_else(|| ports.last()).copied()
}

/// A sample from the registers of the models behind their id and length; none where neither tells volts
/// and amperes. `at` is in seconds.
pub fn sample(battery_model: Option<&[u16]>, dc_model: Option<&[u16]>, at: f64) -> Option<Sample> {
    let own = battery_model.unwrap_or_default();
    let own_volts = unsigned(own.get(battery::VOLTS), scale(own.get(battery::VOLTS_SCALE)));
    let own_amperes = signed(own.get(battery::AMPERES), scale(own.get(battery::AMPERES_SCALE)));
    let stage = stage(own.get(battery::CHARGE_STATE));
    let heartbeat = own.get(battery::HEARTBEAT).copied().filter(|h| *h != NO_UINT);
    let dc = dc_model.unwrap_or_default();
    let port = port(dc);
    let at_port = |offset: usize| port.and_then(|p| p.get(offset));
    let volts = own_volts.or_else(|| unsigned(at_port(dc::VOLTS), scale(dc.get(dc::VOLTS_SCALE))))?;
    let amperes = own_amperes.or_else(|| signed(at_port(dc::AMPERES), scale(dc.get(dc::AMPERES_SCALE))))?;
    // Some count what goes into the battery negative: the stage tells.
    let amperes = match stage {
        Some(FeedStage::Charging | FeedStage::Holding | FeedStage::Testing) => amperes.abs(),
        _ => amperes,
    };
    let celsius = signed(at_port(dc::TEMPERATURE), scale(dc.get(dc::TEMPERATURE_SCALE)));
    Some(Sample { at, volts, amperes, celsius, stage, heartbeat })
}

/// What a charger tells.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Told {
    /// Volts of the bank.
    pub volts: f64,
    /// Amperes; charge positive.
    pub amperes: f64,
    /// Temperature at the sensor, °C.
    pub celsius: f64,
    /// State of charge, 0 to 1.
    pub charge: f64,
    /// Stage.
    pub stage: FeedStage,
    /// Heartbeat.
    pub heartbeat: u16,
}

#[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "clamped to sixteen bits")]
fn register(value: f64, low: f64, high: f64) -> u16 {
    let whole = value.round().clamp(low, high);
    if whole < 0.0 { (whole as i16).cast_unsigned() } else { whole as u16 }
}

fn word(text: &str, registers: usize) -> Vec<u16> {
    let mut bytes = text.as_bytes().to_vec();
    bytes.resize(registers * 2, 0);
    bytes.chunks_exact(2).map(|pair| u16::from_be_bytes([pair[0], pair[1]])).collect()
}

const TENTH: u16 = (-1i16).cast_unsigned();
const HUNDREDTH: u16 = (-2i16).cast_unsigned();

/// A whole map from its mark to its end, as a charger holds it.
pub fn map(told: &Told) -> Vec<u16> {
    let mut all = MARK.to_vec();
    all.extend([COMMON.0, COMMON.1]);
    let mut common = Vec::new();
    common.extend(word("Rainshadow", 16));
    common.extend(word("Simulated charger", 16));
    common.extend(word("", 8));
    common.extend(word(env!("CARGO_PKG_VERSION"), 8));
    common.extend(word("SIM-1", 16));
    common.extend([1, NO_INT]);
    all.extend(common);
    let volts = register(told.volts * 100.0, 0.0, 65_534.0);
    let amperes = register(told.amperes * 10.0, -32_767.0, 32_767.0);
    all.extend([DC, DC_FIXED + DC_PORT]);
    let mut dc = vec![0; usize::from(DC_FIXED + DC_PORT)];
    dc[dc::PORTS] = 1;
    dc[3] = amperes;
    (dc[dc::AMPERES_SCALE], dc[dc::VOLTS_SCALE], dc[dc::TEMPERATURE_SCALE]) = (TENTH, HUNDREDTH, TENTH);
    let first = usize::from(DC_FIXED);
    dc[first + dc::TYPE] = STORAGE;
    dc[first + dc::AMPERES] = amperes;
    dc[first + dc::VOLTS] = volts;
    dc[first + dc::TEMPERATURE] = register(told.celsius * 10.0, -32_767.0, 32_767.0);
    all.extend(dc);
    all.extend([BATTERY.0, BATTERY.1]);
    let mut own = vec![NO_UINT; usize::from(BATTERY.1)];
    own[battery::SOC] = register(told.charge * 1000.0, 0.0, 1000.0);
    own[battery::CHARGE_STATE] = stage_code(told.stage);
    own[battery::HEARTBEAT] = told.heartbeat % NO_UINT;
    own[battery::TYPE] = LEAD_ACID;
    own[battery::STATE] = 3;
    own[battery::VOLTS] = volts;
    own[battery::AMPERES] = amperes;
    (own[battery::SOC_SCALE], own[battery::VOLTS_SCALE], own[battery::AMPERES_SCALE]) =
        (TENTH, HUNDREDTH, TENTH);
    all.extend(own);
    all.extend([END, 0]);
    all
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn told(volts: f64, amperes: f64, celsius: f64) -> Told {
        Told { volts, amperes, celsius, charge: 0.97, stage: FeedStage::Charging, heartbeat: 7 }
    }

    /// The registers of a model of a map, behind its id and length.
    fn model(map: &[u16], id: u16) -> Option<&[u16]> {
        let mut at = 2;
        while map.get(at).is_some_and(|found| *found != END) {
            let length = usize::from(map[at + 1]);
            if map[at] == id {
                return map.get(at + 2..at + 2 + length);
            }
            at += 2 + length;
        }
        None
    }

    #[test]
    fn a_map_opens_with_its_mark_and_its_models_follow_one_another_to_the_end() {
        let map = map(&told(61.8, 33.4, 24.5));
        // "SunS" in two registers
        assert_eq!(map[..2].iter().flat_map(|r| r.to_be_bytes()).collect::<Vec<u8>>(), b"SunS");
        assert_eq!(map[2..4], [1, 66]);
        assert_eq!(
            (model(&map, 714).map(<[u16]>::len), model(&map, 802).map(<[u16]>::len)),
            (Some(43), Some(62))
        );
        assert_eq!(map[map.len() - 2..], [0xffff, 0]);
    }

    #[test]
    fn values_that_are_not_implemented_are_not_told() {
        let map = map(&told(61.8, 33.4, 24.5));
        let mut own = model(&map, 802).unwrap().to_vec();
        own[battery::VOLTS] = NO_UINT;
        // the port tells them too
        let read = sample(Some(&own), model(&map, 714), 0.0).unwrap();
        assert!((read.volts - 61.8).abs() < 1e-9);
        assert_eq!(sample(Some(&own), None, 0.0), None);
        assert_eq!(sample(Some(&own[..10]), None, 0.0), None, "a model cut short tells nothing");
        let mut dc = model(&map, 714).unwrap().to_vec();
        dc[usize::from(DC_FIXED) + dc::TEMPERATURE] = NO_INT;
        assert_eq!(sample(model(&map, 802), Some(&dc), 0.0).unwrap().celsius, None);
    }

    proptest! {
        #[test]
        fn what_is_told_is_read(volts in 0.0f64..600.0, amperes in 0.0f64..3000.0, celsius in -40.0f64..90.0) {
            let map = map(&told(volts, amperes, celsius));
            let read = sample(model(&map, 802), model(&map, 714), 3.0).unwrap();
            prop_assert!((read.volts - volts).abs() <= 0.005 + 1e-9);
            prop_assert!((read.amperes - amperes).abs() <= 0.05 + 1e-9);
            prop_assert!((read.celsius.unwrap() - celsius).abs() <= 0.05 + 1e-9);
            prop_assert_eq!((read.stage, read.heartbeat), (Some(FeedStage::Charging), Some(7)));
        }

        #[test]
        fn no_registers_make_it_fall_over(a in prop::collection::vec(any::<u16>(), 0..80), b in prop::collection::vec(any::<u16>(), 0..80)) {
            let _ = sample(Some(&a), Some(&b), 0.0);
        }
    }
}
