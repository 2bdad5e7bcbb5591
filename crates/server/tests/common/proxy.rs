//! A real proxy with the configuration of the documentation.
#![allow(
    dead_code,
    clippy::unwrap_used,
    reason = "each test file uses its own part, and helpers fail loudly"
)]

use rainshadow::TlsFiles;
use std::path::Path;
use std::process::{Child, Command, Stdio};

/// A certificate for a name and its key, as PEM files.
pub fn certificate(folder: &Path, name: &str) -> (TlsFiles, String) {
    let made = rcgen::generate_simple_self_signed(vec![name.to_owned()]).unwrap();
    let files = TlsFiles { certificate: folder.join("cert.pem"), key: folder.join("key.pem") };
    std::fs::write(&files.certificate, made.cert.pem()).unwrap();
    std::fs::write(&files.key, made.signing_key.serialize_pem()).unwrap();
    (files, made.cert.pem())
}

/// A proxy that runs until the test ends.
pub struct Proxy(Child);

impl Drop for Proxy {
    fn drop(&mut self) {
        let _ = self.0.kill();
        let _ = self.0.wait();
    }
}

/// The configuration of the documentation, with this test's addresses in it.
pub fn documented(app: &str, own: &str, folder: &Path) -> String {
    let page = include_str!("../../../../docs/deploy.md");
    let block = page.split("```nginx\n").nth(1).unwrap().split("```").next().unwrap();
    let at = |name: &str| folder.join(name).display().to_string();
    let mut block = block.to_owned();
    for (from, to) in [
        ("listen 443 ssl", format!("listen {own} ssl")),
        ("/etc/ssl/banks.pem", at("cert.pem")),
        ("/etc/ssl/banks.key", at("key.pem")),
        ("127.0.0.1:7480", app.to_owned()),
    ] {
        assert!(block.contains(from), "{from}");
        block = block.replace(from, &to);
    }
    let temporary = ["client_body", "proxy", "fastcgi", "uwsgi", "scgi"];
    let temporary: String = temporary.map(|kind| format!("{kind}_temp_path {};\n", at(kind))).concat();
    format!(
        "user root;\ndaemon off;\nmaster_process off;\npid {};\nerror_log stderr;\nevents {{}}\nhttp {{\naccess_log off;\n{temporary}{block}}}\n",
        at("pid")
    )
}

/// Starts it.
pub fn nginx(configuration: &Path) -> Proxy {
    let program = ["/usr/sbin/nginx", "/usr/bin/nginx", "/usr/local/sbin/nginx"]
        .into_iter()
        .find(|p| Path::new(p).exists())
        .expect("this test needs Debian's nginx-light, which `cargo xtask test` installs");
    let child = Command::new(program)
        .arg("-c")
        .arg(configuration)
        .stdout(Stdio::null())
        .stderr(Stdio::null())
        .spawn()
        .unwrap();
    Proxy(child)
}
