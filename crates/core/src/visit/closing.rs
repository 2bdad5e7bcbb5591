//! Closing up: how the bank is left, and what goes back as it was, in order.

use crate::battery_model::Construction;
use serde::{Deserialize, Serialize};

/// How a bank is left.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Default, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum LeftAs {
    /// In use: switched on, loads run, chargers by themselves.
    #[default]
    InUse,
    /// Stored until it is wanted again.
    Stored,
    /// Standing by: charged, and ready for the day it is needed.
    Standby,
}

impl LeftAs {
    /// All of them, in the order they are offered.
    pub const ALL: [Self; 3] = [Self::InUse, Self::Stored, Self::Standby];
}

/// One line of the closing list.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum ClosingItem {
    /// Caps on.
    CapsOn,
    /// Tops wiped.
    TopsWiped,
    /// Tools counted.
    ToolsCounted,
    /// Cables as photographed.
    CablesAsPhotographed,
    /// Cover on, no cable pinched.
    CoverOn,
    /// Switch on.
    SwitchOn,
    /// Loads run.
    LoadsRun,
    /// Chargers back in their automatic mode.
    ChargersAutomatic,
    /// Charged full before it is stored.
    FullForStorage,
    /// Levels for the months to come.
    LevelsForStorage,
    /// Nothing draws from it, equipment in standby neither.
    NothingDraws,
    /// Disconnects as they are wanted while it is stored.
    DisconnectsAsWanted,
    /// Charger or maintainer as it is wanted while it is stored.
    ChargerAsWanted,
    /// The alarm was tried.
    AlarmTried,
    /// The lamp of the charger shows what it should.
    ChargerLamp,
    /// The float switch was lifted and what it starts ran.
    FloatSwitch,
}

impl ClosingItem {
    /// True for what not every bank has: it can be answered with "none here".
    pub const fn may_be_missing(self) -> bool {
        matches!(self, Self::AlarmTried | Self::ChargerLamp | Self::FloatSwitch)
    }
}

/// The list for a bank of this construction that is left so.
pub fn closing_items(construction: Construction, left: LeftAs) -> Vec<ClosingItem> {
    use ClosingItem as Item;
    let put_back =
        [Item::CapsOn, Item::TopsWiped, Item::ToolsCounted, Item::CablesAsPhotographed, Item::CoverOn];
    let then: &[Item] = match left {
        LeftAs::InUse => &[Item::SwitchOn, Item::LoadsRun, Item::ChargersAutomatic],
        LeftAs::Stored => &[
            Item::FullForStorage,
            Item::LevelsForStorage,
            Item::NothingDraws,
            Item::DisconnectsAsWanted,
            Item::ChargerAsWanted,
        ],
        LeftAs::Standby => &[
            Item::SwitchOn,
            Item::LoadsRun,
            Item::ChargersAutomatic,
            Item::ChargerLamp,
            Item::AlarmTried,
            Item::FloatSwitch,
        ],
    };
    put_back
        .iter()
        .chain(then)
        .copied()
        .filter(|item| construction.has_caps() || !matches!(item, Item::CapsOn | Item::LevelsForStorage))
        .collect()
}
