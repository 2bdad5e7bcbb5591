//! TLS spoken by the server itself, by a certificate and key from files.

use std::path::{Path, PathBuf};
use std::sync::Arc;
use thiserror::Error;
use tokio_rustls::TlsAcceptor;
use tokio_rustls::rustls::ServerConfig;
use tokio_rustls::rustls::crypto::ring;
use tokio_rustls::rustls::pki_types::pem::PemObject;
use tokio_rustls::rustls::pki_types::{CertificateDer, PrivateKeyDer};

/// Where certificate and key lie, as PEM.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct TlsFiles {
    /// The chain, the server's own certificate first.
    pub certificate: PathBuf,
    /// Its key.
    pub key: PathBuf,
}

/// Why they cannot be used.
#[derive(Debug, Error)]
pub enum TlsError {
    /// A file.
    #[error("{path} holds no certificate or key as PEM: {why}")]
    File {
        /// Which.
        path: PathBuf,
        /// Why.
        why: String,
    },
    /// They do not belong together.
    #[error("the certificate and the key cannot be used: {0}")]
    Pair(#[from] tokio_rustls::rustls::Error),
}

fn read(path: &Path) -> impl Fn(String) -> TlsError + '_ {
    move |why| TlsError::File { path: path.to_owned(), why }
}

/// What shakes hands by these files.
///
/// # Errors
/// [`TlsError`] in one line.
pub fn acceptor(files: &TlsFiles) -> Result<TlsAcceptor, TlsError> {
    let bad = read(&files.certificate);
    let chain = CertificateDer::pem_file_iter(&files.certificate).map_err(|e| bad(e.to_string()))?;
    let chain = chain.collect::<Result<Vec<_>, _>>().map_err(|e| bad(e.to_string()))?;
    if chain.is_empty() {
        return Err(bad("there is none in it".into()));
    }
    let key = PrivateKeyDer::from_pem_file(&files.key).map_err(|e| read(&files.key)(e.to_string()))?;
    let mut config = ServerConfig::builder_with_provider(Arc::new(ring::default_provider()))
        .with_safe_default_protocol_versions()?
        .with_no_client_auth()
        .with_single_cert(chain, key)?;
    config.alpn_protocols = vec![b"http/1.1".to_vec()];
    Ok(TlsAcceptor::from(Arc::new(config)))
}
