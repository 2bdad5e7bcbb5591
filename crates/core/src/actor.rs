//! Who acts.

/// A person on a device, as both were called when something was written down.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Actor {
    /// Id of the person; none in files and notebooks, and in what was written before people were known by it.
    pub id: Option<String>,
    /// Initials, as they were then.
    pub initials: String,
    /// The device, as it called itself.
    pub device: String,
}

impl Actor {
    /// Somebody known by initials alone, on a device.
    pub fn named(initials: &str, device: &str) -> Self {
        Self { id: None, initials: initials.to_owned(), device: device.to_owned() }
    }

    /// As said of what was done: "MO on phone".
    pub fn said(&self) -> String {
        format!("{} on {}", self.initials, self.device)
    }
}
