//! What may be wrong with a bank.

use serde::{Deserialize, Serialize};
use strum::{EnumString, IntoStaticStr, VariantArray};

/// One thing that may be wrong, or nothing.
#[derive(
    Debug,
    Clone,
    Copy,
    PartialEq,
    Eq,
    PartialOrd,
    Ord,
    Hash,
    Serialize,
    Deserialize,
    VariantArray,
    EnumString,
    IntoStaticStr,
)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Hypothesis {
    /// Healthy.
    #[strum(serialize = "OK")]
    Healthy,
    /// The source is too small, or charges too short.
    #[strum(serialize = "UC")]
    Undercharge,
    /// Charged too long.
    #[strum(serialize = "OC")]
    Overcharge,
    /// Sulfated.
    #[strum(serialize = "SU")]
    Sulfated,
    /// The acid is layered.
    #[strum(serialize = "ST")]
    Stratified,
    /// A weak cell.
    #[strum(serialize = "WC")]
    WeakCell,
    /// A shorted cell.
    #[strum(serialize = "SC")]
    ShortedCell,
    /// Dried out.
    #[strum(serialize = "DO")]
    DriedOut,
    /// Acid was added.
    #[strum(serialize = "AC")]
    AcidAdded,
    /// Diluted or spilled.
    #[strum(serialize = "DI")]
    Diluted,
    /// The charger is set wrong.
    #[strum(serialize = "SP")]
    WrongSetpoint,
    /// The charger does not follow the temperature.
    #[strum(serialize = "TS")]
    NoTemperatureSensing,
    /// A bad joint or an open link.
    #[strum(serialize = "BJ")]
    BadJoint,
    /// Strings that share unevenly.
    #[strum(serialize = "US")]
    UnevenStrings,
    /// Dirty tops, or a high self-discharge.
    #[strum(serialize = "DT")]
    SelfDischarge,
    /// Something draws all the time.
    #[strum(serialize = "SD")]
    StandingDraw,
    /// Worn out.
    #[strum(serialize = "WO")]
    WornOut,
    /// Frozen.
    #[strum(serialize = "FR")]
    Frozen,
    /// Current leaks to earth.
    #[strum(serialize = "EL")]
    EarthLeakage,
    /// An instrument is wrong.
    #[strum(serialize = "IE")]
    InstrumentError,
}

impl Hypothesis {
    /// Every one, in the order of the table.
    pub const ALL: &'static [Self] = Self::VARIANTS;

    /// Two letters, as the table of weights has it.
    pub fn code(self) -> &'static str {
        self.into()
    }

    /// True where a bank can have it: layers, acid and water need free electrolyte, uneven strings need two.
    pub const fn applies(self, has_caps: bool, strings: u8) -> bool {
        match self {
            Self::Stratified | Self::AcidAdded | Self::Diluted => has_caps,
            Self::UnevenStrings => strings > 1,
            _ => true,
        }
    }

    /// What it brings about: conditions that are told under it where it stands by itself.
    pub const fn explains(self) -> &'static [Self] {
        match self {
            Self::WrongSetpoint => &[Self::Undercharge, Self::Overcharge, Self::Stratified, Self::Sulfated],
            Self::NoTemperatureSensing => &[Self::Undercharge, Self::Overcharge],
            Self::StandingDraw => &[Self::Undercharge, Self::Sulfated],
            Self::Undercharge => &[Self::Sulfated, Self::Stratified],
            Self::SelfDischarge => &[Self::Sulfated, Self::Undercharge],
            Self::EarthLeakage => &[Self::ShortedCell, Self::WeakCell, Self::Frozen],
            Self::ShortedCell => &[Self::Undercharge],
            _ => &[],
        }
    }
}
